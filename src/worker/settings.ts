import { commentAt, isSwitch, masterOf, nameKey, narrowerFiles, switched, valueInEffect, type SettingsFile, type TargetPath } from '@/core';
import type { ProposalView, SettingRow, SettingsFileView } from './api';
import { askedBy } from './asked';
import type { Session } from './session';
import { namedFolders, numberedView, searchView } from './settingsMore';

const id = (path: readonly string[]): string => path.join('\n');

/** What layers want in one file, by key, the lowest first. */
export function wantedIn(session: Session, file: string): Map<string, { path: string[]; value: string | undefined; layer: string }[]> {
  const found = new Map<string, { path: string[]; value: string | undefined; layer: string }[]>();
  for (const { path, value, layer } of session.picture.resolution.living.get(nameKey(file))?.edits ?? []) found.set(id(path), [...(found.get(id(path)) ?? []), { path, value, layer }]);
  return found;
}

export function settingsViews(session: Session): SettingsFileView[] {
  return session.picture.settingsFiles.map((file): SettingsFileView => {
    const document = session.picture.settings.get(file.target);
    return { target: file.target, title: file.title, there: document !== undefined, known: file.keys.length, total: document?.entries().length ?? 0, edits: wantedIn(session, file.target).size,
      dialect: file.dialect, readOnly: session.picture.readOnly.has(file.target), over: file.over, narrower: narrowerFiles(session.picture.settingsFiles, file.target).map(({ target, title }) => ({ target, title })),
      numbered: numberedView(session, file), search: searchView(session, file),
      own: session.stack.ownFiles.some(({ target }) => target === file.target) ? { on: session.stack.layers.find((layer) => layer.kind === 'edits' && layer.file === file.target)?.on ?? true } : undefined,
    };
  });
}

/** Keys by what stands in them, their values and their meaning: of one file, or of all where none is named. */
export function settingRows(session: Session, file: string | undefined, search: string): (() => SettingRow)[] {
  return file === undefined ? session.picture.settingsFiles.flatMap(({ target }) => rowsOf(session, target, search)) : rowsOf(session, file, search);
}

/** Every key of a file: those that are there, those that the card knows, and those that somebody wants. */
function rowsOf(session: Session, file: string, search: string): (() => SettingRow)[] {
  const words = nameKey(search).split(/\s+/).filter(Boolean);
  const document = session.picture.settings.get(file);
  const card = session.picture.settingsFiles.find(({ target }) => target === file);
  const wanted = wantedIn(session, file);
  const known = new Map((card?.keys ?? []).map((key) => [nameKey(id(key.path)), key]));
  const entries = document?.entries() ?? [];
  const values = new Map(entries.map(({ path, value }) => [nameKey(id(path)), value]));
  const lines = new Map(entries.map(({ path, line }) => [nameKey(id(path)), line]));
  const there = new Set(lines.keys());
  const paths = new Map<string, string[]>();
  for (const { path } of entries) paths.set(nameKey(id(path)), path);
  for (const { path } of card?.keys ?? []) if (!there.has(nameKey(id(path)))) paths.set(nameKey(id(path)), path);
  for (const [first] of wanted.values()) if (first && !paths.has(nameKey(id(first.path)))) paths.set(nameKey(id(first.path)), first.path);
  return [...paths]
    .filter(([key]) => words.every((word) => key.includes(word) || nameKey(known.get(key)?.meaning ?? '').includes(word) || nameKey(values.get(key) ?? '').includes(word) || nameKey(card?.title ?? '').includes(word)))
    .map(([key, path]) => (): SettingRow => {
      const value = document?.get(path);
      const edits = [...wanted.values()].find(([first]) => first && nameKey(id(first.path)) === key) ?? [];
      const last = edits.at(-1);
      const rule = known.get(key);
      const name = (layer: string) => (layer.startsWith('edits:') ? 'you' : session.nameOf(layer));
      return {
        file: file as TargetPath, title: card?.title ?? file, path: path.join(' › '), keys: path, value, wanted: last && last.value !== value ? (last.value ?? '') : undefined,
        by: last && name(last.layer), mine: edits.some(({ layer }) => layer.startsWith('edits:')),
        against: edits.filter((edit) => edit.value !== last?.value).map(({ layer, value: other }) => `${name(layer)} wants ${other ?? 'it gone'}`),
        meaning: rule?.meaning ?? (document && lines.has(key) ? commentAt(document.text, lines.get(key) as number) : undefined), rule: rule && { type: rule.type, min: rule.min, max: rule.max, options: rule.options }, standard: rule?.default,
        elsewhere: elsewhere(session, card, path), list: rule?.list === undefined ? undefined : { separator: rule.list, folders: rule.names === undefined ? [] : namedFolders(session, rule.names) },
        tried: session.stack.tried.filter((one) => one.file === file && nameKey(id(one.path)) === key).map(({ value: tried, note, at }) => ({ value: tried, note, at })).reverse(),
      };
    });
}

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
  return [...above, ...(below && title !== undefined ? [{ title, value: below.value, counts: has(file.target) === undefined }] : [])];
}

/** What read-mes of packs in use tell to set and nobody has asked for yet. */
export async function proposalViews(session: Session): Promise<ProposalView[]> {
  const found: ProposalView[] = [];
  for (const layer of session.packLayers()) {
    if (!layer.on) continue;
    const lines = ((await session.openPack(layer.packId)).readMe?.text ?? '').split(/\r\n|\n|\r/);
    for (const one of (await askedBy(session, layer)).asked) {
      if (one.kind !== 'key') continue;
      // Switches are asked about by themselves, louder.
      if (session.game.card.switches.some(({ file, path }) => file === one.file && nameKey(id(path)) === nameKey(id(one.path)))) continue;
      const willBe = (path: readonly string[], value: string) => wantedIn(session, one.file).get(id(path))?.some((wanted) => wanted.value === value) ?? false;
      const flag = one.now !== undefined && isSwitch(one.now) && switched(one.now, true) !== undefined && isSwitch(one.value);
      const document = session.picture.settings.get(one.file);
      // What is to be off needs nothing to be on.
      const isOn = flag && one.now !== undefined && switched(one.now, true) === one.value;
      const master = isOn && document ? masterOf(document, one.path) : undefined;
      const waits = master !== undefined && !willBe(master.path, master.value);
      const set = one.now === one.value || willBe(one.path, one.value);
      if (set && !waits) continue;
      found.push({
        file: one.file, path: one.path, value: one.value, now: one.now, line: one.line, text: (lines[one.line - 1] ?? '').trim().slice(0, 200), flag, set,
        ...(master && waits ? { after: master } : {}), layer: layer.id, pack: layer.name,
      });
    }
  }
  return found;
}
