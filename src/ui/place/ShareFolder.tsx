'use client';

import { Dropdown } from 'react-bootstrap';
import { useEngine, useGame } from '@/ui/engine';
import type { PackView } from '@/worker/contract';

/** Lets an add-on share the folder of another one, or have its own again. */
export function ShareFolder({ pack }: { pack: PackView }) {
  const { act, busy } = useEngine();
  const { packs } = useGame();
  const others = packs.filter((one) => one.layer !== pack.layer && one.placement.ownFolder);
  const part = pack.placement.parts.find(({ mode }) => mode === 'own-folder');
  const shared = part && pack.placement.moves.find(({ from }) => from === part.from);
  if (others.length === 0 || !part) return null;
  return (
    <Dropdown>
      <Dropdown.Toggle variant="outline-secondary" size="sm" disabled={busy} id={`share-${pack.layer}`}>
        {shared ? 'Shares a folder' : 'Share a folder'}
      </Dropdown.Toggle>
      <Dropdown.Menu>
        {others.map((other) => (
          <Dropdown.Item
            key={other.layer}
            onClick={() =>
              void act((engine) =>
                engine.change({
                  do: 'move in pack',
                  layer: pack.layer,
                  from: part.from,
                  to: other.placement.ownFolder,
                }),
              )
            }
          >
            With {other.name}
          </Dropdown.Item>
        ))}
        {shared && (
          <Dropdown.Item
            onClick={() =>
              void act((engine) =>
                engine.change({ do: 'move in pack', layer: pack.layer, from: part.from, to: undefined }),
              )
            }
          >
            A folder of its own again
          </Dropdown.Item>
        )}
      </Dropdown.Menu>
    </Dropdown>
  );
}
