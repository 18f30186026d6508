'use client';

import dynamic from 'next/dynamic';
import { useEngine, useGame } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { many, place, size } from '@/ui/shared/format';
import { Tag } from '@/ui/shared/Tag';
import type { GameView } from '@/worker/contract';

/** Drawing is a large part of the page's code and comes only when there is something to draw. */
const MemoryChart = dynamic(() => import('./MemoryChart'), { ssr: false, loading: () => null });

const GB = 1024 ** 3;
const CHOICES = [4, 8, 16, 32, 64];

type Memory = GameView['beyondKeys']['memory'];

/** How much memory the player's machine has. */
function Machine({ machine }: { machine: number | undefined }) {
  const { act, busy } = useEngine();
  return (
    <Form.Select
      size="sm"
      style={{ width: 'auto' }}
      aria-label="Memory of your machine"
      value={machine === undefined ? '' : String(machine / GB)}
      disabled={busy}
      onChange={(event) =>
        void act((engine) =>
          engine.change({
            do: 'machine memory',
            memory: event.target.value === '' ? undefined : Number(event.target.value) * GB,
          }),
        )
      }
    >
      <option value="">My machine has…</option>
      {CHOICES.map((one) => (
        <option key={one} value={one}>
          My machine has {one} GB
        </option>
      ))}
    </Form.Select>
  );
}

/** A setting that costs memory: as it should be on this machine, or better otherwise. */
function Advice({ one: { file, path, now, advice: wanted, why, meaning } }: { one: Memory['advice'][number] }) {
  const { roots } = useGame();
  const { act, busy } = useEngine();
  const is = /^(1|true|on|yes)$/i.test(now ?? '') ? 'on' : 'off';
  return (
    <li className="between">
      <span>
        <strong className="path">{path.join(' › ')}</strong> in <span className="path">{place(file, roots)}</span> is{' '}
        {is}: {is === wanted ? 'leave it so.' : `better ${wanted}.`}
        <span className="d-block small quiet">
          {meaning} {why}
        </span>
      </span>
      {is !== wanted && (
        <Button
          size="sm"
          variant="outline-primary"
          disabled={busy}
          aria-label={`Turn ${path.join(' › ')} ${wanted}`}
          onClick={() =>
            void act((engine) =>
              engine.change({
                do: 'set edits',
                file,
                edits: [{ path, value: wanted === 'on' ? '1' : '0' }],
              }),
            )
          }
        >
          Turn it {wanted}
        </Button>
      )}
    </li>
  );
}

/**
 * What the packs' textures take once loaded, against what the machine has, and what to do with settings that cost
 * memory.
 */
export function MemoryRoom() {
  const { beyondKeys } = useGame();
  const { packs, total, machine, advice } = beyondKeys.memory;
  const bars = [...packs].sort((a, b) => b.bytes - a.bytes);
  return (
    <section className="sheet stackup" aria-label="Memory">
      <div className="between">
        <div>
          <h2>{total === 0 ? 'Your packs have no textures to load' : `${size(total)} of textures once loaded`}</h2>
          <p className="small quiet m-0">
            In the memory of the graphics card or the machine, mip levels included; their files are smaller. What the
            game itself needs comes on top.
          </p>
        </div>
        <Machine machine={machine} />
      </div>
      {bars.length > 0 && (
        <figure className="m-0">
          <div
            role="img"
            aria-label={`Texture memory by pack: ${bars.map(({ name, bytes }) => `${name} ${size(bytes)}`).join(', ')}`}
          >
            <MemoryChart bars={bars} total={total} machine={machine} />
          </div>
          <figcaption className="picks">
            {bars.map(({ layer, name, tag, bytes, files }) => (
              <span key={layer} className="row-of small">
                <Tag tag={tag} name={name} /> {name}: {size(bytes)} in {many(files, 'picture')}
              </span>
            ))}
          </figcaption>
        </figure>
      )}
      {machine === undefined && (
        <p className="small quiet m-0">
          Say how much memory your machine has, and the app tells which performance settings fit it.
        </p>
      )}
      {advice.length > 0 && (
        <ul className="reasons" aria-label="Advice on performance settings">
          {advice.map((one) => (
            <Advice key={`${one.file} ${one.path.join(' ')}`} one={one} />
          ))}
        </ul>
      )}
    </section>
  );
}
