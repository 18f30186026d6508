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

export function needWarnings({ card, gameFiles, facts, others }: WarningInput): WarningFact[] {
  const found: WarningFact[] = [];
  const keys = keysOf(gameFiles);
  for (const { value, where } of factsOf(facts, 'needs')) {
    const set = card.contents.find(({ title, id, words: more }) =>
      [title, id, ...more].some((word) => words(value).includes(words(word))),
    );
    if (set) {
      if (!keys.has(nameKey(set.marker)))
        found.push({
          code: 'needs-contents',
          level: 'wrong',
          set: set.title,
          ...one(where),
        });
      continue;
    }
    const base = others.find((other) => isMeant(value, other));
    if (!base) {
      found.push({
        code: 'needs-pack',
        level: 'wrong',
        needed: value,
        ...one(where),
      });
      continue;
    }
    const [mine, theirs] = (['resolution', 'version'] as const).map(
      (kind) => [factsOf(facts, kind)[0]?.value, factsOf(base.facts, kind)[0]?.value] as const,
    );
    if (mine?.[0] && mine[1] && mine[0] !== mine[1])
      found.push({
        code: 'patch-mismatch',
        level: 'wrong',
        of: 'resolution',
        wanted: mine[0],
        base: base.name,
        has: mine[1],
        ...one(where),
      });
    const wantedVersion = /\b(\d+(?:\.\d+){1,3})\b/.exec(value)?.[1] ?? theirs?.[0];
    if (wantedVersion && theirs?.[1] && !closeVersions(wantedVersion, theirs[1]))
      found.push({
        code: 'patch-mismatch',
        level: 'note',
        of: 'version',
        wanted: wantedVersion,
        base: base.name,
        has: theirs[1],
        ...one(where),
      });
  }
  for (const { value, where } of factsOf(facts, 'patch'))
    if (!others.some((other) => isMeant(value, other)))
      found.push({
        code: 'needs-patch',
        level: 'wrong',
        needed: value,
        ...one(where),
      });
  for (const { value, where } of factsOf(facts, 'id')) {
    const other = others.find(({ facts: theirs }) => factsOf(theirs, 'id').some((fact) => fact.value === value));
    if (other)
      found.push({
        code: 'id-taken',
        level: 'wrong',
        id: value,
        other: other.name,
        ...one(where),
      });
  }
  const edition = installedEdition(card, gameFiles);
  const stated = factsOf(facts, 'edition');
  if (
    edition &&
    stated.length > 0 &&
    !stated.some(({ value }) => words(value) === words(edition.title) || words(value) === words(edition.id)) &&
    !card.recipes.length
  )
    found.push({
      code: 'other-edition',
      level: 'wrong',
      stated: stated.map(({ value }) => value),
      edition: edition.title,
      paths: stated.map(({ where }) => where),
      files: 1,
    });
  return found;
}
