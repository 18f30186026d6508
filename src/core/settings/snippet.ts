import { nameKey, type TargetPath } from '../paths/paths';
import type { Dialect } from './dialects';
import type { SettingsDocument } from './document';
import { openSettings } from './openSettings';

/** One value of a pasted text. */
interface SnippetLine {
  path: string[];
  value: string;
  /** What the file holds now. */
  now: string | undefined;
  is: 'new' | 'changed' | 'same';
}

/** A settings file that a pasted text could belong to. */
export interface SnippetPlace {
  target: TargetPath;
  lines: SnippetLine[];
  /** Lines whose key the file has. */
  known: number;
}

/** Longest text that is read, in characters. */
const LONGEST = 1024 * 1024;

interface SnippetFile {
  target: TargetPath;
  dialect: Dialect;
  document: SettingsDocument;
}

const keyOf = (path: readonly string[]): string => nameKey(path.join('\n'));

/** The keys of a document, as lines are looked for among them. */
function keysOf(document: SettingsDocument) {
  const entries = document.entries();
  const byName = new Map<string, string[][]>();
  for (const { path } of entries) {
    const name = nameKey(path.at(-1) ?? '');
    byName.set(name, [...(byName.get(name) ?? []), path]);
  }
  return {
    spelled: new Map(entries.map(({ path }) => [keyOf(path), path])),
    sections: new Set(entries.map(({ path }) => keyOf(path.slice(0, -1)))),
    byName,
  };
}

/** What lines would be in one file, and how many of its sections they name. */
function placeIn({ target, dialect, document }: SnippetFile, text: string): { place: SnippetPlace; homes: number } {
  const { spelled, sections, byName } = keysOf(document);
  const lines = new Map<string, SnippetLine>();
  let homes = 0;
  for (const { path: written, value } of openSettings(text, dialect).entries()) {
    const alone = written.length === 1 ? (byName.get(nameKey(written[0] ?? '')) ?? []) : [];
    const path = spelled.get(keyOf(written)) ?? (alone.length === 1 ? alone[0] : undefined) ?? written;
    const now = document.get(path);
    if (now === undefined && path.length > 1 && sections.has(keyOf(path.slice(0, -1)))) homes++;
    lines.set(keyOf(path), { path, value, now, is: now === undefined ? 'new' : now === value ? 'same' : 'changed' });
  }
  const found = [...lines.values()];
  return { place: { target, lines: found, known: found.filter(({ is }) => is !== 'new').length }, homes };
}

/**
 * Reads lines that were copied from somewhere, in the form of each settings file, and finds where they belong: where
 * the most of their keys are there already, else where their sections are. A line without a section belongs to the one
 * place where a key of that name stands. Of a key that is named twice the last value counts.
 *
 * @example readSnippet('Wide=1', [{ target, dialect: 'ini', document: openSettings('[Graphics]\nWide=0\n', 'ini') }])
 * // [{ target, known: 1, lines: [{ path: ['Graphics', 'Wide'], value: '1', now: '0', is: 'changed' }] }]
 * @returns the files that it could belong to, the likeliest first
 */
export function readSnippet(text: string, files: readonly SnippetFile[]): SnippetPlace[] {
  if (text.trim() === '' || text.length > LONGEST) return [];
  const places = files.map((file) => placeIn(file, text));
  return places
    .filter(({ place, homes }) => place.known + homes > 0)
    .sort((a, b) => b.place.known - a.place.known || b.homes - a.homes || (a.place.target < b.place.target ? -1 : 1))
    .map(({ place }) => place);
}
