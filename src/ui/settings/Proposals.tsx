'use client';

import { switchChain, withOption } from '@/core';
import { useEngine, useGame } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { oneOr, place } from '@/ui/shared/format';
import { Notice } from '@/ui/shared/Notice';
import { Tag } from '@/ui/shared/Tag';
import type { ProposalView } from '@/worker/contract';
import type { EngineRemote } from '@/worker/contract/connect';

/** What packs' read-mes tell to set, each to be put in with one click. */
export function Proposals() {
  const { proposals: all, packs, roots, beyondKeys } = useGame();
  const { act, busy } = useEngine();
  const proposals = all.filter(({ flag }) => !flag);
  if (proposals.length + beyondKeys.asks.length === 0) return null;
  return (
    <section className="sheet" aria-label="What your packs ask for">
      <h2>What your packs’ read-mes ask for</h2>
      <ul className="reasons mt-1">
        {proposals.map(({ layer, pack, file, path, value, now, line }) => {
          const tag = packs.find((one) => one.layer === layer)?.tag;
          return (
            <li className="between" key={`${layer} ${file} ${path.join(' ')}`}>
              <span className="row-of">
                {tag && <Tag tag={tag} name={pack} />}
                <span>
                  {value === '' ? (
                    <span>
                      the line <strong className="path">{path.join(' ')}</strong>
                    </span>
                  ) : (
                    <span className="path">
                      {path.join(' › ')} = <strong>{value}</strong>
                    </span>
                  )}{' '}
                  <span className="small quiet">
                    in {place(file, roots)}: {now === undefined ? 'new' : `now ${now}`}; line {line} of its read-me
                  </span>
                </span>
              </span>
              <Button
                size="sm"
                variant="outline-primary"
                disabled={busy}
                aria-label={value === '' ? `Put in the line ${path.join(' ')}` : `Set ${path.join(' › ')} to ${value}`}
                onClick={() => void act((engine) => engine.change({ do: 'set edits', file, edits: [{ path, value }] }))}
              >
                Put it in
              </Button>
            </li>
          );
        })}
        {beyondKeys.asks.map((ask) => {
          const tag = packs.find((one) => one.layer === ask.layer)?.tag;
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
            <li className="between" key={`${ask.layer} ${says}`}>
              <span className="row-of">
                {tag && <Tag tag={tag} name={ask.pack} />}
                <span>
                  <span className="path">
                    <strong>{says}</strong>
                  </span>{' '}
                  <span className="small quiet">
                    {ask.kind === 'option'
                      ? 'in the launch line'
                      : `in ${place(ask.file, roots)}, with the next free number`}
                    ; line {ask.line} of its read-me
                  </span>
                </span>
              </span>
              <Button size="sm" variant="outline-primary" disabled={busy} aria-label={`Put in ${says}`} onClick={take}>
                Put it in
              </Button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** What a pack's read-me asks to be switched: each switch, and what stands before it. */
interface Asked {
  layer: string;
  pack: string;
  flags: ProposalView[];
}

/** Switches that read-mes ask for and that are otherwise, by pack. */
export function askedSwitches(proposals: readonly ProposalView[]): Asked[] {
  const found = new Map<string, Asked>();
  for (const one of proposals.filter(({ flag }) => flag)) {
    const known = found.get(one.layer);
    if (known) known.flags.push(one);
    else found.set(one.layer, { layer: one.layer, pack: one.pack, flags: [one] });
  }
  return [...found.values()];
}

/** Sets all that a pack asks for, in its order. */
export const setAsked = async (engine: EngineRemote, { flags }: Asked): Promise<void> => {
  for (const { file, path, value, set } of flags)
    if (!set) await engine.change({ do: 'set edits', file, edits: [{ path, value }] });
};

/** Switches that a pack's read-me asks for: off until they are on, and the loudest thing on the page while off. */
export function AskedSwitches() {
  const { proposals } = useGame();
  return askedSwitches(proposals).map((one) =>
    one.flags.length === 1 && !one.flags[0]?.after ? (
      <OneSwitch key={one.layer} asked={one} />
    ) : (
      <Chain key={one.layer} asked={one} />
    ),
  );
}

function OneSwitch({ asked: { layer, pack, flags } }: { asked: Asked }) {
  const { packs, roots } = useGame();
  const { act, busy } = useEngine();
  const [one] = flags;
  if (!one) return null;
  const { file, path, value, now, line, text } = one;
  const tag = packs.find((other) => other.layer === layer)?.tag;
  return (
    <Notice
      level="wrong"
      title={`“${path.at(-1) ?? ''}” is ${now}, and “${pack}” asks for ${value}`}
      action={
        <Button
          size="sm"
          disabled={busy}
          aria-label={`Set ${path.join(' › ')} to ${value}`}
          onClick={() => void act((engine) => engine.change({ do: 'set edits', file, edits: [{ path, value }] }))}
        >
          Set it to {value}
        </Button>
      }
    >
      <p>
        {tag && <Tag tag={tag} name={pack} />} Line {line} of its read-me: “{text.replace(/[.]$/, '')}”. As long as it
        is otherwise, the game may pass over what the pack brings.
      </p>
      <p className="small quiet">
        <span className="path">{path.join(' › ')}</span> in <span className="path">{place(file, roots)}</span> is {now}.
        Not one other byte of the file changes.
      </p>
    </Notice>
  );
}

/** Several switches that belong together: each with what it is now, in the order in which one needs the other. */
function Chain({ asked }: { asked: Asked }) {
  const { packs, roots } = useGame();
  const { act, busy } = useEngine();
  const { layer, pack, flags } = asked;
  const tag = packs.find((other) => other.layer === layer)?.tag;
  const steps = switchChain(flags);
  const open = flags.filter(({ set }) => !set);
  const [first] = open.length > 0 ? open : flags;
  const name = first?.path.at(-1) ?? '';
  const title =
    open.length === 0
      ? `“${pack}” has “${name}” as it asks, but “${first?.after?.path.at(-1) ?? ''}” beside it is ${first?.after?.now ?? 'off'}`
      : oneOr(
          open.length,
          `“${name}” is ${first?.now ?? 'off'}, and “${pack}” asks for ${first?.value ?? 'on'}`,
          `“${pack}” asks for ${open.length} switches that are otherwise now`,
        );
  return (
    <Notice
      level={open.length === 0 ? 'note' : 'wrong'}
      title={title}
      action={
        open.length > 1 && (
          <Button
            size="sm"
            disabled={busy}
            aria-label={`Set all that “${pack}” asks for`}
            onClick={() => void act((engine) => setAsked(engine, asked))}
          >
            Set all {open.length}
          </Button>
        )
      }
    >
      <p>
        {tag && <Tag tag={tag} name={pack} />}{' '}
        {open.length === 0
          ? 'If nothing of the pack shows in the game, turn that on, too.'
          : 'As long as one of them is otherwise, the game may pass over what the pack brings.'}
      </p>
      <ol className="reasons">
        {steps.map(({ file, path, value, now, set, line }) => (
          <li key={`${file} ${path.join(' ')}`} className="between">
            <span>
              <span className="path">
                {path.join(' › ')} = <strong>{value}</strong>
              </span>{' '}
              <span className="small quiet">
                in {place(file, roots)},{' '}
                {set && now !== value ? 'after the next deployment' : `now ${now ?? 'not there'}`};{' '}
                {line === undefined
                  ? 'nobody asked for it, but by its name it turns on all that stands beside it'
                  : `line ${line} of its read-me`}
              </span>
            </span>
            {!set && (
              <Button
                size="sm"
                variant={line === undefined ? 'outline-primary' : 'primary'}
                disabled={busy}
                aria-label={`Set ${path.join(' › ')} to ${value}`}
                onClick={() => void act((engine) => engine.change({ do: 'set edits', file, edits: [{ path, value }] }))}
              >
                Set it to {value}
              </Button>
            )}
          </li>
        ))}
      </ol>
    </Notice>
  );
}
