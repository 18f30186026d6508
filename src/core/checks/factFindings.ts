import type { EditFate } from '../deploy/afterStart';
import type { Shortage } from '../deploy/room';
import type { GameCard } from '../games/card';
import type { TargetPath } from '../paths/paths';
import type { Warning } from '../placement/warning';
import type { RoomAdvice } from '../settings/roomInMemory';
import type { Finding } from './finding';
import { findingOf } from './findingOf';
import type { Trouble } from './trouble';
import { namesIn } from './wordsFor';

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
  const called = new Map(
    [...facts.packs, ...facts.short.flatMap(({ packs }) => packs)].map(({ layer, name }) => [layer, name]),
  );
  const names = namesIn(card, (layer) => called.get(layer) ?? layer);
  const troubles: Trouble[] = [
    ...facts.unlisted.map(notListed),
    ...facts.lost.map(lostEdit),
    ...facts.packs.flatMap((pack) => wrongPlaces(pack, others)),
    ...facts.advice.flatMap(tooMuchMemory),
    ...facts.fought.map(foughtOver),
    ...facts.short.map(tooLittleRoom),
    ...(facts.drifted > 0 ? [changedByOthers(facts.drifted)] : []),
  ];
  return troubles.map((trouble) => findingOf(trouble, names));
}

type Fact<Of extends keyof KnownFacts> = KnownFacts[Of] extends readonly (infer One)[] ? One : never;

const aboutKey = ({ file, path }: { file: TargetPath; path: readonly string[] }): string =>
  `${file} › ${path.join(' › ')}`;

const notListed = (one: Fact<'unlisted'>): Trouble => ({
  ...one,
  kind: 'not listed',
  id: `not-listed:${one.item}`,
  level: 'wrong',
  about: aboutKey(one),
});

function lostEdit({ layer: _, ...edit }: Fact<'lost'>): Trouble {
  const dropped = edit.fate === 'dropped';
  return {
    ...edit,
    kind: 'lost edit',
    id: `lost:${edit.file} ${edit.path.join(' ')}`,
    level: dropped ? 'wrong' : 'note',
    about: aboutKey(edit),
    shared: {
      kind: 'lost',
      key: `lost:${edit.file} ${dropped ? 'dropped' : 'changed'} ${edit.times > 1 ? 'again' : ''}`,
      dropped,
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

const wrongPlaces = ({ layer, name, warnings }: Fact<'packs'>, others: readonly Finding[]): Trouble[] =>
  warnings
    .filter(({ code, level }) => level === 'wrong' && !isToldAlready(code, layer, others))
    .map((warning): Trouble => ({
      kind: 'warning',
      id: `warning:${warning.code}:${layer}`,
      level: 'wrong',
      layer,
      ...(warning.paths[0] === undefined ? {} : { about: warning.paths[0] }),
      name,
      warning,
    }));

const tooMuchMemory = (one: Fact<'advice'>): Trouble[] =>
  one.advice !== 'off' || !/^(1|true|on|yes)$/i.test(one.now ?? '')
    ? []
    : [
        {
          ...one,
          kind: 'too much memory',
          id: `memory:${one.file} ${one.path.join(' ')}`,
          level: 'wrong',
          about: aboutKey(one),
        },
      ];

const foughtOver = (one: Fact<'fought'>): Trouble => ({
  ...one,
  kind: 'fought over',
  id: `fought-over:${one.file} ${one.path.join(' ')}`,
  level: 'note',
  about: aboutKey(one),
});

const tooLittleRoom = (one: Fact<'short'>): Trouble => ({
  ...one,
  kind: 'too little room',
  id: `no-room:${one.disk}`,
  level: 'wrong',
});

const changedByOthers = (drifted: number): Trouble => ({ kind: 'drift', id: 'drift', level: 'note', drifted });
