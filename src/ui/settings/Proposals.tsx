'use client';

import type { ReactNode } from 'react';
import { asThings, nameAsked, thingAsked, withOption } from '@/core';
import { useEngine, useGame } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { place } from '@/ui/shared/format';
import { Tag } from '@/ui/shared/Tag';
import type { GameView, ProposalView } from '@/worker/contract';

/** A line of a read-me that asks for something, and the button that puts it in. */
function AskedLine(p: {
  layer: string;
  pack: string;
  label: string;
  onPutIn(): void;
  says: ReactNode;
  where: string;
  line: number;
}) {
  const { layer, pack, label, onPutIn, says, where, line } = p;
  const { packs } = useGame();
  const { busy } = useEngine();
  const tag = packs.find((one) => one.layer === layer)?.tag;
  return (
    <li className="between">
      <span className="row-of">
        {tag && <Tag tag={tag} name={pack} />}
        <span>
          {says}{' '}
          <span className="small quiet">
            {where}; line {line} of its read-me
          </span>
        </span>
      </span>
      <Button size="sm" variant="outline-primary" disabled={busy} aria-label={label} onClick={onPutIn}>
        Put it in
      </Button>
    </li>
  );
}

/** A value to be set, or a line that names something. */
function AskedValue({ one }: { one: ProposalView }) {
  const { roots, settings } = useGame();
  const { act } = useEngine();
  const { layer, pack, file, path, value, now, line } = one;
  const asked = value === '' ? nameAsked(path, settings.find(({ target }) => target === file)?.dialect) : undefined;
  return (
    <AskedLine
      layer={layer}
      pack={pack}
      line={line}
      where={`in ${place(file, roots)}: ${now === undefined ? 'new' : `now ${now}`}`}
      label={asked === undefined ? `Set ${path.join(' › ')} to ${value}` : `Put in ${asked}`}
      onPutIn={() => void act((engine) => engine.change({ do: 'set edits', file, edits: [{ path, value }] }))}
      says={
        asked !== undefined ? (
          <span className="path">{asked}</span>
        ) : (
          <span className="path">
            {path.join(' › ')} = <strong>{value}</strong>
          </span>
        )
      }
    />
  );
}

/** One more of what a file lists, with all of its keys. */
function AskedThing({ all }: { all: readonly [ProposalView, ...ProposalView[]] }) {
  const { roots } = useGame();
  const { act } = useEngine();
  const [{ layer, pack, file, path, line }] = all;
  const thing = thingAsked(path);
  const keyOf = (one: ProposalView) => (one.path.at(-1) ?? '').replace(/^@/, '');
  return (
    <AskedLine
      layer={layer}
      pack={pack}
      line={line}
      where={`in ${place(file, roots)}: new`}
      label={`Put in ${thing}: ${all.map((one) => `${keyOf(one)} ${one.value}`).join(', ')}`}
      onPutIn={() =>
        void act((engine) =>
          engine.change({ do: 'set edits', file, edits: all.map((one) => ({ path: one.path, value: one.value })) }),
        )
      }
      says={
        <span className="path">
          {thing}:{' '}
          {all.map((one, i) => (
            <span key={keyOf(one)}>
              {i > 0 && ', '}
              {keyOf(one)} = <strong>{one.value}</strong>
            </span>
          ))}
        </span>
      }
    />
  );
}

/** An option of the launch line, or a section that takes the next number. */
function AskedBeyond({ ask }: { ask: GameView['beyondKeys']['asks'][number] }) {
  const { roots, beyondKeys } = useGame();
  const { act } = useEngine();
  const says =
    ask.kind === 'option'
      ? [ask.option, ask.value].join(' ').trim()
      : `[${ask.section} N] ${ask.keys.map(({ key, value }) => `${key}=${value}`).join(' ')}`;
  const take = () =>
    void act((engine) =>
      ask.kind === 'option'
        ? engine.change({
            do: 'launch line',
            line: withOption(beyondKeys.launch?.line ?? '', ask.option, ask.value),
          })
        : engine.change({ do: 'number add', file: ask.file, keys: ask.keys }),
    );
  return (
    <AskedLine
      layer={ask.layer}
      pack={ask.pack}
      line={ask.line}
      where={ask.kind === 'option' ? 'in the launch line' : `in ${place(ask.file, roots)}, with the next free number`}
      label={`Put in ${says}`}
      onPutIn={take}
      says={<strong className="path">{says}</strong>}
    />
  );
}

/** What each pack asks for, the keys of one thing together. */
const packed = (proposals: readonly ProposalView[]) =>
  [...new Set(proposals.map(({ layer }) => layer))].flatMap((layer) =>
    asThings(proposals.filter((one) => one.layer === layer)),
  );

/** What packs' read-mes tell to set, each to be put in with one click. */
export function Proposals() {
  const { proposals: all, beyondKeys } = useGame();
  const proposals = all.filter(({ flag }) => !flag);
  if (proposals.length + beyondKeys.asks.length === 0) return null;
  return (
    <section className="sheet" aria-label="What your packs ask for">
      <h2>What your packs’ read-mes ask for</h2>
      <ul className="reasons mt-1">
        {packed(proposals).map((all) => {
          const [one, another] = all;
          const key = `${one.layer} ${one.file} ${one.path.join(' ')}`;
          return another ? <AskedThing key={key} all={all} /> : <AskedValue key={key} one={one} />;
        })}
        {beyondKeys.asks.map((ask) => (
          <AskedBeyond key={`${ask.layer} ${ask.line} ${ask.kind}`} ask={ask} />
        ))}
      </ul>
    </section>
  );
}
