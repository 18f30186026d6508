'use client';

import { switchChain } from '@/core';
import { useEngine, useGame } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { oneOr, place } from '@/ui/shared/format';
import { Notice } from '@/ui/shared/Notice';
import { Tag } from '@/ui/shared/Tag';
import type { ProposalView } from '@/worker/contract';
import type { EngineRemote } from '@/worker/contract/connect';

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

/** What there is still to set for a pack, in words. */
export function askedSays({ pack, flags }: Asked): string {
  const [one, ...others] = flags.filter(({ set }) => !set);
  return others.length === 0
    ? `Set “${one?.path.at(-1) ?? ''}” to ${one?.value ?? ''}`
    : `Set the ${others.length + 1} switches that “${pack}” asks for`;
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

/** How a chain of switches stands, in one sentence. */
function chainTitle({ pack, flags }: Asked): string {
  const open = flags.filter(({ set }) => !set);
  const [first] = open.length > 0 ? open : flags;
  const name = first?.path.at(-1) ?? '';
  if (open.length === 0)
    return `“${pack}” has “${name}” as it asks, but “${first?.after?.path.at(-1) ?? ''}” beside it is ${first?.after?.now ?? 'off'}`;
  return oneOr(
    open.length,
    `“${name}” is ${first?.now ?? 'off'}, and “${pack}” asks for ${first?.value ?? 'on'}`,
    `“${pack}” asks for ${open.length} switches that are otherwise now`,
  );
}

/** One switch of the chain: asked for by a line, or what by its name turns on all beside it. */
function Link({ step }: { step: ReturnType<typeof switchChain>[number] }) {
  const { roots } = useGame();
  const { act, busy } = useEngine();
  const { file, path, value, now, set, line } = step;
  return (
    <li className="between">
      <span>
        <span className="path">
          {path.join(' › ')} = <strong>{value}</strong>
        </span>{' '}
        <span className="small quiet">
          in {place(file, roots)}, {set && now !== value ? 'after the next deployment' : `now ${now ?? 'not there'}`};{' '}
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
  );
}

/** Several switches that belong together: each with what it is now, in the order in which one needs the other. */
function Chain({ asked }: { asked: Asked }) {
  const { packs } = useGame();
  const { act, busy } = useEngine();
  const { layer, pack, flags } = asked;
  const tag = packs.find((other) => other.layer === layer)?.tag;
  const open = flags.filter(({ set }) => !set);
  return (
    <Notice
      level={open.length === 0 ? 'note' : 'wrong'}
      title={chainTitle(asked)}
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
        {switchChain(flags).map((step) => (
          <Link key={`${step.file} ${step.path.join(' ')}`} step={step} />
        ))}
      </ol>
    </Notice>
  );
}
