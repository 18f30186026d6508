import {
  commentAt,
  nameKey,
  searchWords,
  narrowerFiles,
  once,
  onceFor,
  pathId,
  splitLines,
  valueInEffect,
  type LivingTarget,
  type SettingsDocument,
  type SettingsFile,
  type TargetPath,
  parseTarget,
} from '@/core';
import type { QueryOf, SettingRow } from '../contract';
import type { Coming } from '../game/picture';
import type { Session } from '../game/session';
import { wantedIn } from '../game/wanted';
import { namedFolders } from './numberedView';

/** Keys by what stands in them, their values and their meaning: of one file, or of all where none is named. */
export function settingRows(session: Session, { file, search }: QueryOf<'settings'>): (() => SettingRow)[] {
  return file === undefined
    ? session.picture.settingsFiles.flatMap(({ target }) => rowsOf(session, target, found(search)))
    : rowsOf(session, parseTarget(file), found(search));
}

/** One key of a file by its path as it is shown; undefined where the file has none of it. */
export const settingRow = (session: Session, file: string, path: string): SettingRow | undefined =>
  rowsOf(session, parseTarget(file), () => {
    const wanted = nameKey(path);
    return ({ shown }) => shown === wanted;
  })[0]?.();

/** A key of a file, with all that is looked for in it, folded once. */
interface Key {
  id: string;
  path: string[];
  /** As it is shown. */
  shown: string;
  value: string;
  line?: number;
}

const keyOf = (path: string[], value = '', line?: number): Key => ({
  id: nameKey(pathId(path)),
  path,
  shown: nameKey(shownPath(path)),
  value: nameKey(value),
  line,
});

const shownPath = (path: readonly string[]): string => path.join(' › ');

/** What a document says, made once for each: files of half a million keys are looked through piece by piece. */
class KeyIndex {
  readonly keys = once(
    () =>
      new Map(
        this.document.entries().map(({ path, value, line }) => {
          const key = keyOf(path, value, line);
          return [key.id, key];
        }),
      ),
  );
  readonly lines = once(() => splitLines(this.document.text));

  constructor(private readonly document: SettingsDocument) {}
}

const indexOf = onceFor((document: SettingsDocument) => new KeyIndex(document));

/** Which keys are meant, with what the card says of them. */
type Meant = (title: string, meaning: (id: string) => string) => (key: Key) => boolean;

/** What a search is looked for in: a key, its value, the title of its file and what the card says of it. */
const found =
  (search: string): Meant =>
  (title, meaning) => {
    const words = searchWords(search);
    return ({ id, shown, value }) =>
      words.every(
        (word) => shown.includes(word) || value.includes(word) || title.includes(word) || meaning(id).includes(word),
      );
  };

/** Every key of a file: those that are there, those that the card knows, and those that somebody wants. */
function rowsOf(session: Session, file: TargetPath, meant: Meant): (() => SettingRow)[] {
  const document = session.picture.settings.get(file);
  const card = session.picture.settingsFiles.find(({ target }) => target === file);
  const coming = session.picture.coming.get(file);
  const index = document && indexOf(document);
  const wanted = new Map(
    [...wantedIn(session, file).values()].flatMap((edits) =>
      edits[0] ? [[nameKey(pathId(edits[0].path)), edits]] : [],
    ),
  );
  const known = new Map((card?.keys ?? []).map((key) => [nameKey(pathId(key.path)), key]));
  const brought = coming ? [...indexOf(coming.document).keys().values()] : [];
  const more = [...brought, ...known.values(), ...[...wanted.values()].flatMap(([first]) => first ?? [])]
    .map(({ path }) => keyOf(path))
    .filter(({ id }) => !index?.keys().has(id));
  const fits = meant(nameKey(card?.title ?? ''), (id) => nameKey(known.get(id)?.meaning ?? ''));
  return [...(index?.keys().values() ?? []), ...new Map(more.map((key) => [key.id, key])).values()]
    .filter(fits)
    .map((key) => () => rowOf(session, { file, card, document, coming }, key, wanted.get(key.id) ?? []));
}

interface Where {
  file: TargetPath;
  card: SettingsFile | undefined;
  document: SettingsDocument | undefined;
  /** What a layer puts in its place. */
  coming: Coming | undefined;
}

function rowOf(
  session: Session,
  { file, card, document, coming }: Where,
  key: Key,
  edits: LivingTarget['edits'],
): SettingRow {
  const { id, path, line } = key;
  const value = document?.get(path);
  const last = edits.at(-1) ?? broughtOf(coming, path, value);
  const rule = card?.keys.find((one) => nameKey(pathId(one.path)) === id);
  const name = ({ kind, layer }: { kind: string; layer: string }) => (kind === 'edits' ? 'you' : session.nameOf(layer));
  const comment = () => (document && line !== undefined ? commentAt(indexOf(document).lines(), line) : undefined);
  return {
    file,
    title: card?.title ?? file,
    path: shownPath(path),
    keys: path,
    value,
    wanted: last && last.value !== value ? (last.value ?? '') : undefined,
    by: last && name(last),
    mine: edits.some(({ kind }) => kind === 'edits'),
    against: edits
      .filter((edit) => edit.value !== last?.value)
      .map((edit) => `${name(edit)} wants ${edit.value ?? 'it gone'}`),
    elsewhere: elsewhere(session, card, path),
    tried: triedOf(session, file, id),
    ...ruleOf(session, rule),
    meaning: rule?.meaning ?? comment(),
  };
}

/** What becomes of a key that no edit is for, where another file comes with another value, or without it. */
function broughtOf(
  coming: Coming | undefined,
  path: readonly string[],
  now: string | undefined,
): { kind: 'pack'; layer: string; value: string | undefined } | undefined {
  const value = coming?.document.get(path);
  return coming && value !== now ? { kind: 'pack', layer: coming.layer, value } : undefined;
}

/** What the card says of a key. */
function ruleOf(
  session: Session,
  rule: SettingsFile['keys'][number] | undefined,
): Pick<SettingRow, 'rule' | 'standard' | 'list'> {
  if (!rule) return { rule: undefined, standard: undefined, list: undefined };
  const { type, min, max, options, list, names } = rule;
  return {
    rule: { type, min, max, options },
    standard: rule.default,
    list:
      list === undefined
        ? undefined
        : { separator: list, folders: names === undefined ? [] : namedFolders(session, names) },
  };
}

/** Values that the player tried, the latest first. */
const triedOf = ({ stack }: Session, file: TargetPath, id: string): SettingRow['tried'] =>
  stack.tried
    .filter((one) => one.file === file && nameKey(pathId(one.path)) === id)
    .map(({ value, note, at }) => ({ value, note, at }))
    .reverse();

/** The same key in files above and below this one, and which of them counts. */
function elsewhere(session: Session, file: SettingsFile | undefined, path: readonly string[]): SettingRow['elsewhere'] {
  if (!file) return [];
  const { settings, settingsFiles } = session.picture;
  const has = (target: string) => settings.get(target)?.get(path);
  const above = narrowerFiles(settingsFiles, file.target).flatMap(({ target, title }) => {
    const value = has(target);
    return value === undefined ? [] : [{ title, value, counts: true }];
  });
  const below = file.over === undefined ? undefined : valueInEffect(settingsFiles, settings, file.over, path);
  const title = settingsFiles.find(({ target }) => target === below?.from)?.title;
  return [
    ...above,
    ...(below && title !== undefined ? [{ title, value: below.value, counts: has(file.target) === undefined }] : []),
  ];
}
