import { withoutArchiveEnding } from '../media/archiveEndings';
import type { PackEntry } from '../archives/pack';
import type { GameCard } from '../games/card';
import { baseName, nameKey } from '../paths/paths';
import { openSettings } from '../settings/openSettings';

/** Something that a pack says of itself, and where it says so. */
export interface StatedFact {
  kind: 'version' | 'resolution' | 'edition' | 'region' | 'title-id' | 'needs' | 'patch' | 'id' | 'title' | 'for';
  value: string;
  /** "the file’s name", a file of the pack, or a file and its line. */
  where: string;
}

/** Version numbers as packs state them: 1.2, v2.0.1. Names of resolutions (1024x512) are none. */
const VERSION = /(?:^|[^a-z0-9.])v?(\d+(?:\.\d+){1,3})(?![\d.]*\d)(?:\b|_)/i;
const RESOLUTION =
  /(?:^|[^a-z0-9])(\d{3,4})(?:\s?(?:px|p|x\d{3,4}|pixels?))(?:[^a-z0-9]|$)|(?:^|[^a-z0-9])([248]k|hd|uhd)(?:[^a-z0-9]|$)/i;
const BARE_RESOLUTION = /(?:^|[^a-z0-9.])(128|256|512|1024|2048|4096)(?:[^a-z0-9.]|$)/;
const NEEDS = /^\W*(?:needs|requires|required|depends on)\s*:?\s+(?:the\s+)?(?:pack\s+)?["“]?([^.\n"”]{3,60})/i;

/** Only what asks for one: “patch notes” and “patch 1.2 adds” do not. */
const PATCH = /^\W*(?:needs|requires)\s+(?:(?:its|the)\s+)?(?:patch|add-?on)\s*:?\s+["“]?([^.\n"”]{3,60})/i;

const bare = (name: string): string => withoutArchiveEnding(name).replace(/_/g, '-');

/** The version in a name: "weathered-quay-1.2.zip" says 1.2. */
export function statedVersion(name: string): string | undefined {
  return VERSION.exec(bare(name))?.[1] ?? /(?:^|[\s-])v(\d+)(?:$|[\s-])/i.exec(bare(name))?.[1];
}

/** The resolution in a name: "boats-1024.zip" says 1024. */
function statedResolution(name: string): string | undefined {
  const found = RESOLUTION.exec(bare(name));
  return found?.[1] ?? found?.[2]?.toLowerCase() ?? BARE_RESOLUTION.exec(bare(name))?.[1];
}

export interface StatedInput {
  /** The download's file name. */
  name: string;
  entries: readonly PackEntry[];
  card: GameCard;
  /** Small texts of the pack by path: manifests. */
  texts: ReadonlyMap<string, string>;
  readMe?: { path: string; text: string };
}

/** Does a file of a pack lie as a settings file lies in the game? Then it speaks to the game and not to the reader. */
export const liesAsSettings = (path: string, card: Pick<GameCard, 'settings'>): boolean =>
  card.settings.some(({ target }) => `/${nameKey(path)}`.endsWith(nameKey(target.slice(target.indexOf('/')))));

/**
 * Which of a pack's text files are read for proposals, facts and settings: manifests and settings files that the card
 * names.
 */
export function textsWanted(entries: readonly PackEntry[], card: GameCard): string[] {
  const names = new Set([
    ...card.manifests.map(({ file }) => nameKey(file)),
    ...card.settings
      .flatMap(({ target }) =>
        target.includes('{title}')
          ? (card.titles?.known ?? []).map(({ id }) => target.replaceAll('{title}', id))
          : [target],
      )
      .map((target) => nameKey(baseName(target))),
  ]);
  return entries
    .filter(({ path, size }) => names.has(nameKey(baseName(path))) && size <= 1024 * 1024)
    .map(({ path }) => path)
    .slice(0, 200);
}

/** What a pack states in its name, its manifests and its read-me: each with where it was found, the surest first. */
export function statedFacts({ name, entries, card, texts, readMe }: StatedInput): StatedFact[] {
  const facts: StatedFact[] = [];
  const add = (kind: StatedFact['kind'], value: string | undefined, where: string) => {
    if (
      value !== undefined &&
      value.trim() !== '' &&
      !facts.some((fact) => fact.kind === kind && nameKey(fact.value) === nameKey(value.trim()))
    )
      facts.push({ kind, value: value.trim(), where });
  };
  for (const [path, text] of texts) for (const [kind, value] of manifestFacts(path, text, card)) add(kind, value, path);
  add('version', statedVersion(name), 'the file’s name');
  add('resolution', statedResolution(name), 'the file’s name');
  words(name, 'the file’s name');
  if (card.titles) {
    const fits = new RegExp(`^(?:${card.titles.pattern})$`, 'i');
    const seen = new Set<string>();
    for (const { path } of entries)
      for (const part of path.split('/').slice(0, -1)) {
        if (seen.has(part)) continue;
        seen.add(part);
        if (fits.test(part)) add('title-id', part, path.slice(0, path.indexOf(part) + part.length));
      }
  }
  if (readMe)
    readMe.text
      .slice(0, 64 * 1024)
      .split(/\r\n|\n|\r/)
      .slice(0, 400)
      .forEach((line, i) => {
        const where = `${baseName(readMe.path)}, line ${i + 1}`;
        if (/\b(version|release|v\d)/i.test(line) || i === 0) add('version', VERSION.exec(line)?.[1], where);
        const patch = PATCH.exec(line)?.[1];
        if (patch !== undefined) add('patch', patch, where);
        else add('needs', NEEDS.exec(line)?.[1], where);
        words(line, where);
      });
  return facts;

  function words(text: string, where: string): void {
    const key = nameKey(text);
    for (const { id, title } of card.editions)
      if (key.includes(nameKey(title)) || new RegExp(`(^|[^a-z])${id}[ -]?edition([^a-z]|$)`).test(key))
        add('edition', title, where);
    if (!card.titles) return;
    for (const { id, region } of card.titles.known) {
      if (key.includes(nameKey(id))) add('title-id', id, where);
      if (new RegExp(`(^|[^a-z])${region.toLowerCase().replace(/[^a-z ]/g, '.')}(ern)?([^a-z]|$)`).test(key))
        add('region', region, where);
    }
  }
}

/** The facts in one manifest, by the card's description of it. A manifest that cannot be read states nothing. */
function manifestFacts(path: string, text: string, card: GameCard): [StatedFact['kind'], string][] {
  const manifest = card.manifests.find(({ file }) => nameKey(file) === nameKey(baseName(path)));
  if (!manifest) return [];
  const found: [StatedFact['kind'], string][] = [];
  const fields = Object.entries(manifest.fields) as [StatedFact['kind'], string[]][];
  if (manifest.form === 'ini') {
    const document = openSettings(text, 'ini');
    for (const [kind, at] of fields)
      for (const value of (document.get(at) ?? '').split(','))
        if (value.trim() !== '') found.push([kind, value.trim()]);
    return found;
  }
  const json = jsonOf(text);
  return fields.flatMap(([kind, at]) =>
    valuesAt(json, at).map((value) => [kind, value] as [StatedFact['kind'], string]),
  );
}

/** A manifest that cannot be read says nothing here; the checks before the start name it. */
function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text.replace(/^\ufeff/, ''));
  } catch {
    return undefined;
  }
}

/** The texts and numbers at a place, one or a list of them. */
function valuesAt(json: unknown, at: readonly string[]): string[] {
  let value = json;
  for (const key of at)
    value =
      typeof value === 'object' && value !== null && Object.hasOwn(value, key)
        ? (value as Record<string, unknown>)[key]
        : undefined;
  const all: unknown[] = Array.isArray(value) ? value : [value];
  return all.flatMap((one) => (typeof one === 'string' || typeof one === 'number' ? [String(one)] : []));
}
