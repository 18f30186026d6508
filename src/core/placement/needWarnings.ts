import type { Edition, GameCard } from '../games/card';
import type { StatedFact } from '../inspect/stated';
import { keysOf, nameKey } from '../paths/paths';
import { one, words, type WarningFact, type WarningInput } from './warning';

/** The edition that is installed, by its marker file. */
export const installedEdition = (card: GameCard, gameFiles: readonly string[]): Edition | undefined => {
  const keys = keysOf(gameFiles);
  return (
    card.editions.find(({ marker }) => marker !== undefined && keys.has(nameKey(marker))) ??
    (card.editions.length === 1 ? card.editions[0] : undefined)
  );
};

/** Is a needed pack among these names? Version numbers and small words do not matter. */
export const isNeeded = (need: string, name: string): boolean => {
  const wanted = words(need)
    .replace(/\b\d[\d ]*$/, '')
    .trim();
  return (
    wanted !== '' &&
    (` ${words(name)} `.includes(` ${wanted} `) ||
      ` ${wanted} `.includes(
        ` ${words(name)
          .replace(/\b\d[\d ]*$/, '')
          .trim()} `,
      ))
  );
};

const factsOf = (facts: readonly StatedFact[], kind: StatedFact['kind']): StatedFact[] =>
  facts.filter((fact) => fact.kind === kind);

/**
 * Do two versions differ only in their third number, or not at all? Common practice: such a patch usually still works.
 */
export const closeVersions = (a: string, b: string): boolean => {
  const [x, y] = [a, b].map((version) => version.split('.').map(Number));
  return (x?.[0] ?? 0) === (y?.[0] ?? 0) && (x?.[1] ?? 0) === (y?.[1] ?? 0);
};

/** Is this the pack that another one calls by this name? */
const isMeant = (value: string, { name, facts }: { name: string; facts: readonly StatedFact[] }): boolean =>
  isNeeded(value, name) ||
  factsOf(facts, 'title').some((fact) => isNeeded(value, fact.value)) ||
  factsOf(facts, 'id').some((fact) => words(fact.value) === words(value));

/** The pack that a patch says it needs, among others. */
export const packBase = <T extends { name: string; facts: readonly StatedFact[] }>(
  facts: readonly StatedFact[],
  others: readonly T[],
): T | undefined => others.find((other) => factsOf(facts, 'needs').some(({ value }) => isMeant(value, other)));

export const needWarnings = (input: WarningInput): WarningFact[] => [
  ...factsOf(input.facts, 'needs').flatMap((need) => ofNeed(need, input)),
  ...factsOf(input.facts, 'patch').flatMap((patch) => ofPatch(patch, input)),
  ...factsOf(input.facts, 'id').flatMap((id) => ofId(id, input)),
  ...ofEdition(input),
];

/** Contents of the game, or another pack, without which it does not work. */
function ofNeed({ value, where }: StatedFact, { card, gameFiles, facts, others }: WarningInput): WarningFact[] {
  const set = card.contents.find(({ title, id, words: more }) =>
    [title, id, ...more].some((word) => words(value).includes(words(word))),
  );
  if (set) {
    const isThere = keysOf(gameFiles).has(nameKey(set.marker));
    return isThere ? [] : [{ code: 'needs-contents', level: 'wrong', set: set.title, ...one(where) }];
  }
  const base = others.find((other) => isMeant(value, other));
  if (!base) return [{ code: 'needs-pack', level: 'wrong', needed: value, ...one(where) }];
  const stated = (kind: 'resolution' | 'version', of: readonly StatedFact[]) => factsOf(of, kind)[0]?.value;
  const mismatch = { code: 'patch-mismatch', base: base.name, ...one(where) } as const;
  const found: WarningFact[] = [];
  const [mine, theirs] = [stated('resolution', facts), stated('resolution', base.facts)];
  if (mine && theirs && mine !== theirs)
    found.push({ ...mismatch, level: 'wrong', of: 'resolution', wanted: mine, has: theirs });
  const wanted = /\b(\d+(?:\.\d+){1,3})\b/.exec(value)?.[1] ?? stated('version', facts);
  const has = stated('version', base.facts);
  if (wanted && has && !closeVersions(wanted, has))
    found.push({ ...mismatch, level: 'note', of: 'version', wanted, has });
  return found;
}

const ofPatch = ({ value, where }: StatedFact, { others }: WarningInput): WarningFact[] =>
  others.some((other) => isMeant(value, other))
    ? []
    : [{ code: 'needs-patch', level: 'wrong', needed: value, ...one(where) }];

function ofId({ value, where }: StatedFact, { others }: WarningInput): WarningFact[] {
  const other = others.find(({ facts }) => factsOf(facts, 'id').some((fact) => fact.value === value));
  return other ? [{ code: 'id-taken', level: 'wrong', id: value, other: other.name, ...one(where) }] : [];
}

/** Made for another edition, and the card knows no way between them. */
function ofEdition({ card, gameFiles, facts }: WarningInput): WarningFact[] {
  const edition = installedEdition(card, gameFiles);
  const stated = factsOf(facts, 'edition');
  if (!edition || stated.length === 0 || card.recipes.length > 0) return [];
  const isMine = (value: string) => words(value) === words(edition.title) || words(value) === words(edition.id);
  if (stated.some(({ value }) => isMine(value))) return [];
  return [
    {
      code: 'other-edition',
      level: 'wrong',
      stated: stated.map(({ value }) => value),
      edition: edition.title,
      paths: stated.map(({ where }) => where),
      files: 1,
    },
  ];
}
