import type { EditFate } from '../deploy/afterStart';
import type { Shortage } from '../deploy/room';
import type { GameCard } from '../games/card';
import type { TargetPath } from '../paths/paths';
import type { Warning } from '../placement/warning';
import type { RoomAdvice } from '../settings/roomInMemory';
import { figure, megabytes, oneOr } from '../words';
import { placeNamer } from './beforeInput';
import type { Finding } from './finding';

/** What is known besides files and logs. */
export interface KnownFacts {
  /** Folders of packs that a list in a settings file does not name. */
  unlisted: readonly { file: TargetPath; path: string[]; item: string; pack: string }[];
  /** Deployed edits that stand no more, who wanted them, and how often that has happened. */
  lost: readonly (EditFate & { by: string; times: number })[];
  /** Settings that cost memory, as they will be. */
  advice: readonly (RoomAdvice & { file: TargetPath; path: string[]; now: string | undefined })[];
  /** Packs in use, with what is to be known of their places. */
  packs: readonly { layer: string; name: string; warnings: readonly Warning[] }[];
  /** Keys for which two packs want different values; the last one in `wants` gets its way. */
  fought: readonly { file: TargetPath; path: string[]; wants: readonly { by: string; value: string | undefined }[] }[];
  /** Disks that are too full for what waits in the plan, and the packs that bring most of it. */
  short: readonly (Shortage & { packs: readonly { layer: string; name: string; bytes: number }[] })[];
  /** Deployed files that somebody else changed. */
  drifted: number;
}

/**
 * Findings from what is known besides files and logs.
 *
 * @param card names the game's folders
 * @param others what the checks of the files found; a warning that says the same without a cure is left away
 */
export function knownFindings(facts: KnownFacts, others: readonly Finding[], card: Pick<GameCard, 'roots'>): Finding[] {
  const shown = placeNamer({ card });
  return [
    ...facts.unlisted.map((one) => notListed(one, shown)),
    ...facts.lost.map((one) => lostEdit(one, shown)),
    ...facts.packs.flatMap((pack) => wrongPlaces(pack, others)),
    ...facts.advice.flatMap((one) => tooMuchMemory(one, shown)),
    ...facts.fought.map((one) => foughtOver(one, shown)),
    ...facts.short.map(tooLittleRoom),
    ...(facts.drifted > 0 ? [changedByOthers(facts.drifted)] : []),
  ];
}

/** Names a target as people read it. */
type Namer = (target: string) => string;

type Fact<Of extends keyof KnownFacts> = KnownFacts[Of] extends readonly (infer One)[] ? One : never;

const notListed = ({ file, path, item, pack }: Fact<'unlisted'>, shown: Namer): Finding => ({
  id: `not-listed:${item}`,
  level: 'wrong',
  about: `${file} › ${path.join(' › ')}`,
  title: `“${item}” is not in the list`,
  evidence: `${path.join(' › ')} in ${shown(file)} does not name it; “${pack}” brings it.`,
  cause: 'The game looks into the folders alone that the list names.',
  fixes: [{ kind: 'list', label: 'Add it to the list', file, path, item }],
});

function lostEdit({ file, path, value, now, fate, times, by }: Fact<'lost'>, shown: Namer): Finding {
  const key = path.join(' › ');
  const dropped = fate === 'dropped';
  return {
    id: `lost:${file} ${path.join(' ')}`,
    level: dropped ? 'wrong' : 'note',
    about: `${file} › ${key}`,
    title: dropped ? `The game dropped ${key}${times > 1 ? `, ${times} times now` : ''}` : `${key} was changed since`,
    evidence: `${shown(file)}: it should be ${value ?? 'gone'} for ${by === 'you' ? 'you' : `“${by}”`}, and is ${now ?? 'not there'}.`,
    cause:
      times > 1
        ? 'The game does not keep it: look for another name or place for this key.'
        : 'Some games throw a new key out at the first start and keep it when it is put in again.',
    fixes: [{ kind: 'deploy', label: 'Look at the plan' }],
    shared: {
      key: `lost:${file} ${dropped ? 'dropped' : 'changed'} ${times > 1 ? 'again' : ''}`,
      title: dropped ? 'The game dropped {n} settings' : '{n} settings were changed since',
    },
  };
}

/** Warnings that the checks before the start tell with a cure. */
const TOLD_WITH_A_CURE: readonly string[] = ['wrong-region', 'unknown-id', 'id-taken'];

const isToldAlready = (code: string, layer: string, others: readonly Finding[]): boolean =>
  TOLD_WITH_A_CURE.includes(code) &&
  others.some(
    (finding) => finding.layer === layer && (finding.id.startsWith('wrong-id') || finding.id.startsWith('id-taken')),
  );

const wrongPlaces = ({ layer, name, warnings }: Fact<'packs'>, others: readonly Finding[]): Finding[] =>
  warnings
    .filter(({ code, level }) => level === 'wrong' && !isToldAlready(code, layer, others))
    .map(({ code, says, next, paths }): Finding => ({
      id: `warning:${code}:${layer}`,
      level: 'wrong',
      layer,
      ...(paths[0] === undefined ? {} : { about: paths[0] }),
      title: `“${name}”: ${says}`,
      evidence: paths.length === 0 ? `The pack “${name}”.` : paths.join(', '),
      cause: next,
      fixes: [
        { kind: 'go', label: 'Look at its place', step: 'place' },
        { kind: 'take out', label: `Take “${name}” out`, layer },
      ],
    }));

function tooMuchMemory({ file, path, now, advice, why }: Fact<'advice'>, shown: Namer): Finding[] {
  if (advice !== 'off' || !/^(1|true|on|yes)$/i.test(now ?? '')) return [];
  return [
    {
      id: `memory:${file} ${path.join(' ')}`,
      level: 'wrong',
      about: `${file} › ${path.join(' › ')}`,
      title: `${path.at(-1)} is on, and the textures do not fit into memory`,
      evidence: `${path.join(' › ')} in ${shown(file)} is ${now ?? 'on'}.`,
      cause: why,
      fixes: [{ kind: 'edit', label: 'Turn it off', file, edit: { path, value: '0' } }],
    },
  ];
}

function foughtOver({ file, path, wants }: Fact<'fought'>, shown: Namer): Finding {
  const winner = wants.at(-1);
  const others = wants.filter(
    ({ value }, i) => value !== winner?.value && wants.findIndex((one) => one.value === value) === i,
  );
  return {
    id: `fought-over:${file} ${path.join(' ')}`,
    level: 'note',
    about: `${file} › ${path.join(' › ')}`,
    title: `${path.at(-1)} is wanted in ${others.length + 1} ways`,
    evidence: `${shown(file)}: ${wants.map(({ by, value }) => `“${by}” wants ${value ?? 'it gone'}`).join(', ')}.`,
    cause: `“${winner?.by ?? ''}” gets its way, because it lies higher in the stack.`,
    fixes: [winner, ...others].flatMap((one): Finding['fixes'] =>
      one?.value === undefined
        ? []
        : [{ kind: 'edit', label: `Keep ${one.value}, for “${one.by}”`, file, edit: { path, value: one.value } }],
    ),
  };
}

const tooLittleRoom = ({ disk, needed, left, packs }: Fact<'short'>): Finding => ({
  id: `no-room:${disk}`,
  level: 'wrong',
  title: 'The next deployment does not fit on the disk',
  evidence: `It needs ${megabytes(needed)} on ${disk}; ${megabytes(left, 'down')} are free.`,
  cause:
    'New files are written beside the old ones, and originals are kept twice, so both need room. Nothing is written before there is enough.',
  fixes: packs.slice(0, 3).map(({ layer, name, bytes }) => ({
    kind: 'take out',
    label: `Take “${name}” out (${megabytes(bytes)})`,
    layer,
  })),
});

const changedByOthers = (drifted: number): Finding => ({
  id: 'drift',
  level: 'note',
  title: `${figure(drifted)} deployed ${oneOr(drifted, 'file was', 'files were')} changed by somebody else`,
  evidence: `The Deploy page lists ${oneOr(drifted, 'it', 'them')}.`,
  cause: 'The game’s updater, another program or your own hand.',
  fixes: [{ kind: 'deploy', label: oneOr(drifted, 'Look at it', 'Look at them') }],
});
