'use client';

import { blockMoves } from '@/core';
import { useEngine, useGame } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { many } from '@/ui/shared/format';
import { NameForm } from '@/ui/shared/NameForm';
import { useEscape } from '@/ui/shared/useEscape';

interface Props {
  marked: string[];
  onMark(marked: string[]): void;
  onDone(): void;
}

/** What can be done with several packs in one go: each is one step that Undo takes back. */
export function MarkedPacks({ marked, onMark, onDone }: Props) {
  const { act, busy } = useEngine();
  const { packs } = useGame();
  useEscape(onDone);
  // From the bottom to the top, as the stack lies.
  const layers = packs.map(({ layer }) => layer).filter((layer) => marked.includes(layer));
  const underSome = packs.some(({ layer, notes }) => marked.includes(layer) && notes.heading !== undefined);
  return (
    <section className="sheet stackup" aria-label="Marked packs" style={{ gap: '0.45rem' }}>
      <div className="row-of">
        <strong className="grow">{many(layers.length, 'pack')} marked</strong>
        <Button size="sm" variant="outline-secondary" onClick={() => onMark(packs.map(({ layer }) => layer))}>
          Mark all
        </Button>
        <Button size="sm" variant="outline-secondary" onClick={onDone}>
          Done marking
        </Button>
      </div>
      <MoveThem layers={layers} />
      <UseThem layers={layers} onGone={() => onMark([])} />
      <NameForm
        label="Heading for them"
        placeholder="A heading of your own"
        button="Put them under it"
        onName={(engine, heading) => engine.change({ do: 'head packs', layers, heading })}
      >
        {underSome && (
          <Button
            size="sm"
            variant="link"
            className="p-0"
            disabled={busy}
            onClick={() => void act((engine) => engine.change({ do: 'head packs', layers, heading: '' }))}
          >
            Under none
          </Button>
        )}
      </NameForm>
    </section>
  );
}

function MoveThem({ layers }: { layers: string[] }) {
  const { act, busy } = useEngine();
  const { packs } = useGame();
  const none = busy || layers.length === 0;
  const { top, up, down, bottom } = blockMoves(
    packs.map(({ layer }) => layer),
    new Set(layers),
  );
  const moves: [string, number][] = [
    ['To the top', top],
    ['Up', up],
    ['Down', down],
    ['To the bottom', bottom],
  ];
  return (
    <div className="row-of" role="group" aria-label="Move them">
      {moves.map(([says, place]) => (
        <Button
          key={says}
          size="sm"
          variant="outline-primary"
          disabled={none}
          onClick={() => void act((engine) => engine.change({ do: 'move packs', layers, place }))}
        >
          {says}
        </Button>
      ))}
    </div>
  );
}

function UseThem({ layers, onGone }: { layers: string[]; onGone(): void }) {
  const { act, busy } = useEngine();
  const none = busy || layers.length === 0;
  return (
    <div className="row-of" role="group" aria-label="Use them">
      {[true, false].map((on) => (
        <Button
          key={String(on)}
          size="sm"
          variant="outline-primary"
          disabled={none}
          onClick={() => void act((engine) => engine.change({ do: 'switch packs', layers, on }))}
        >
          {on ? 'Put them in' : 'Leave them out'}
        </Button>
      ))}
      <Button
        size="sm"
        variant="outline-danger"
        disabled={none}
        title="Undo brings them back."
        onClick={() => void act((engine) => engine.change({ do: 'take out', layers })).then(() => onGone())}
      >
        Take them out
      </Button>
    </div>
  );
}
