import {
  SatchelError, addNumbered, addSearchFolder, applySettings, editsOfText, joinPath, listItems, moveSearchEntry, nameKey, nameProblem, numberedSections, openSettings, removeNumbered, renumber, searchEntries, withItem, withoutItem,
  type Edit, type GameSwitch, type SettingsDocument, type SettingsFile, type TargetPath,
} from '@/core';
import type { EditsLayer } from '@/storage/memory';
import type { SettingsCommand } from './api';
import type { Session } from './session';

export const SETTINGS_TITLES: Record<SettingsCommand['do'], string> = {
  edits: 'Noting the edits', list: 'Changing the list', 'number add': 'Adding the section', 'number remove': 'Taking the section out', renumber: 'Closing the gaps', 'search move': 'Changing the order', 'search add': 'Adding the folder',
  launch: 'Changing the launch line', text: 'Noting the edits', 'new file': 'Making the file', 'switch file': 'Switching the file', 'drop file': 'Taking the file away', 'save set': 'Saving the set', 'use set': 'Taking the set',
  'forget set': 'Forgetting the set', note: 'Noting it', machine: 'Noting it', 'turn on': 'Turning it on',
};

/** Tried values that are remembered. */
const MOST_TRIED = 200;
/** Characters of a launch line; systems take no more. */
const LONGEST_LINE = 8000;

export function settingsFile(session: Session, file: string): SettingsFile {
  const found = session.picture.settingsFiles.find(({ target }) => nameKey(target) === nameKey(file));
  if (!found) throw new SatchelError('unknown-thing', { what: 'settings file of that name' });
  return found;
}

/** A settings file as it will be after the next deployment. */
export function futureDocument(session: Session, file: string): SettingsDocument {
  const { target, dialect } = settingsFile(session, file);
  const now = session.picture.settings.get(target) ?? openSettings('', dialect);
  try {
    return applySettings(now, session.picture.resolution.living.get(nameKey(target))?.edits ?? []).document;
  } catch (error) {
    // What a pack wants and the file cannot hold is told in the plan.
    if (error instanceof SatchelError) return now;
    throw error;
  }
}

const idOf = (path: readonly string[]): string => path.join('\n');

/** Takes edits as the player's own. A value that the file cannot hold is refused here, not in the next plan. */
export async function noteEdits(session: Session, file: string, wanted: readonly Edit[]): Promise<void> {
  if (wanted.length === 0) return;
  const { target } = settingsFile(session, file);
  let document = futureDocument(session, target);
  for (const { path, value } of wanted) document = value === undefined ? document.remove(path) : document.set(path, value);
  const keys = new Set(wanted.map(({ path }) => idOf(path)));
  await session.setEdits(target, (edits) => [...edits.filter((edit) => !keys.has(idOf(edit.path))), ...wanted.map(({ path, value }) => ({ path, ...(value === undefined ? {} : { value }) }))]);
}

async function noteTried(session: Session, file: TargetPath, path: readonly string[], value: string, note = ''): Promise<void> {
  const others = session.stack.tried.filter((one) => one.file !== file || idOf(one.path) !== idOf(path) || one.value !== value);
  const before = session.stack.tried.find((one) => one.file === file && idOf(one.path) === idOf(path) && one.value === value);
  await session.saveStack({ tried: [...others, { file, path: [...path], value, note: note || (before?.note ?? ''), at: Date.now() }].slice(-MOST_TRIED) });
}

/** A switch and those that it needs, the outermost first. */
export function switchChain(switches: readonly GameSwitch[], id: string): GameSwitch[] {
  const chain: GameSwitch[] = [];
  for (let at = switches.find((one) => one.id === id); at && !chain.includes(at); at = switches.find((one) => one.id === at?.after)) chain.unshift(at);
  return chain;
}

const playerEdits = (session: Session): EditsLayer[] => session.stack.layers.filter((layer) => layer.kind === 'edits');

/** Carries out a change of settings. All of them end as edits in the stack. */
export async function runSettingsCommand(session: Session, command: SettingsCommand): Promise<void> {
  switch (command.do) {
    case 'edits': {
      await noteEdits(session, command.file, command.edits.map(({ path, value }) => (value === undefined ? { path } : { path, value })));
      const [only, another] = command.edits;
      if (only?.value !== undefined && !another) await noteTried(session, settingsFile(session, command.file).target, only.path, only.value);
      return;
    }
    case 'list':
      return changeList(session, command);
    case 'number add':
    case 'number remove':
    case 'renumber':
      return changeNumbers(session, command);
    case 'search move':
    case 'search add': {
      const file = settingsFile(session, command.file);
      if (!file.search) return;
      const entries = searchEntries(futureDocument(session, file.target), file.search);
      const folder = command.do === 'search add' ? command.folder.trim().replaceAll('\\', '/').replace(/^\/+|\/+$/g, '') : '';
      if (command.do === 'search add' && (folder === '' || folder.split('/').some((name) => nameProblem(name)))) throw new SatchelError('bad-value', { value: command.folder, why: 'it is no folder inside the game' });
      return noteEdits(session, file.target, command.do === 'search add' ? [addSearchFolder(entries, file.search, folder, command.each)] : moveSearchEntry(entries, command.from, command.to));
    }
    case 'launch': {
      const line = command.line.trim();
      if (/[\r\n]/.test(line) || line.length > LONGEST_LINE) throw new SatchelError('bad-value', { value: line.slice(0, 40), why: 'a launch line stands on one line' });
      const { launch } = session.game.card;
      return launch?.file !== undefined && launch.path ? noteEdits(session, launch.file, [{ path: [...launch.path], value: line }]) : session.saveStack({ launchLine: line });
    }
    case 'text': {
      const file = settingsFile(session, command.file);
      const document = futureDocument(session, file.target);
      return noteEdits(session, file.target, editsOfText(document, command.text, file.dialect).edits);
    }
    case 'new file':
      return newFile(session, command.name);
    case 'switch file':
      return session.saveStack({ layers: session.stack.layers.map((layer) => (layer.kind === 'edits' && layer.file === command.file ? { ...layer, on: command.on } : layer)) });
    case 'drop file':
      return session.saveStack({ ownFiles: session.stack.ownFiles.filter(({ target }) => target !== command.file), layers: session.stack.layers.filter((layer) => layer.kind !== 'edits' || layer.file !== command.file) });
    case 'save set': {
      const name = command.name.trim().slice(0, 80);
      if (name === '') throw new SatchelError('bad-value', { value: '', why: 'a set needs a name' });
      const files = playerEdits(session).map(({ file, edits }) => ({ file, edits }));
      const at = Date.now();
      return session.saveStack({ sets: [...session.stack.sets.filter((one) => one.name !== name), { id: `set-${at.toString(36)}`, name, at, files }] });
    }
    case 'use set': {
      const set = session.stack.sets.find(({ id }) => id === command.id);
      if (!set) throw new SatchelError('unknown-thing', { what: 'set of that name' });
      const others = session.stack.layers.filter(({ kind }) => kind !== 'edits');
      return session.saveStack({ layers: [...others, ...set.files.map(({ file, edits }): EditsLayer => ({ kind: 'edits', id: `edits:${file}`, name: 'Your settings', on: true, file, edits }))] });
    }
    case 'forget set':
      return session.saveStack({ sets: session.stack.sets.filter(({ id }) => id !== command.id) });
    case 'note':
      return noteTried(session, settingsFile(session, command.file).target, command.path, command.value, command.note.trim().slice(0, 300));
    case 'machine':
      return session.saveStack({ machineMemory: command.memory });
    case 'turn on':
      for (const { file, path, on } of switchChain(session.game.card.switches, command.switch)) if (session.picture.settings.get(file)?.get(path) !== on) await noteEdits(session, file, [{ path: [...path], value: on }]);
  }
}

async function changeList(session: Session, { file, path, item, on }: Extract<SettingsCommand, { do: 'list' }>): Promise<void> {
  const { target, keys } = settingsFile(session, file);
  const rule = keys.find((key) => nameKey(idOf(key.path)) === nameKey(idOf(path)));
  const separator = rule?.list ?? ',';
  if (item.trim() === '' || item.includes(separator)) throw new SatchelError('bad-value', { value: item, why: `an item of the list is not empty and has no “${separator}” in it` });
  const before = futureDocument(session, target).get(path) ?? rule?.default ?? '';
  const value = on ? withItem(before, separator, item.trim()) : withoutItem(before, separator, item);
  if (value !== before || listItems(before, separator).length === 0) await noteEdits(session, target, [{ path, value }]);
}

async function changeNumbers(session: Session, command: Extract<SettingsCommand, { do: 'number add' | 'number remove' | 'renumber' }>): Promise<void> {
  const file = settingsFile(session, command.file);
  if (!file.numbered) return;
  const document = futureDocument(session, file.target);
  const { section: stem, first } = file.numbered;
  if (command.do === 'renumber') return noteEdits(session, file.target, renumber(document, stem, first));
  if (command.do === 'number add') return noteEdits(session, file.target, addNumbered(document, stem, command.keys.filter(({ key }) => key.trim() !== '')));
  const gone = numberedSections(document, stem).find(({ section }) => section === command.section);
  if (!gone) return;
  // What was only wanted and never there needs no edit to go.
  const mine = playerEdits(session).find((layer) => layer.file === file.target)?.edits ?? [];
  const there = session.picture.settings.get(file.target);
  const edits = removeNumbered(gone);
  const wishes = edits.filter(({ path }) => there?.get(path) === undefined && mine.some((edit) => idOf(edit.path) === idOf(path)));
  if (wishes.length > 0) await session.setEdits(file.target, (all) => all.filter((edit) => !wishes.some(({ path }) => idOf(path) === idOf(edit.path))));
  await noteEdits(session, file.target, edits.filter((edit) => !wishes.includes(edit)));
}

/** A settings file of the player's own: its lines are edits, so it can be changed, switched off and taken back like all others. */
async function newFile(session: Session, name: string): Promise<void> {
  const own = session.game.card.ownFiles;
  if (!own) throw new SatchelError('unknown-thing', { what: 'place for files of your own in this game' });
  const plain = name.trim().replace(new RegExp(`\\${own.ending}$`, 'i'), '');
  if (plain === '' || nameProblem(plain + own.ending) || /[/\\]/.test(plain)) throw new SatchelError('bad-value', { value: name, why: 'it cannot be the name of a file' });
  const target = joinPath(own.into, plain + own.ending) as TargetPath;
  if (session.picture.settingsFiles.some((file) => nameKey(file.target) === nameKey(target)) || session.picture.ownKeys.has(nameKey(target))) throw new SatchelError('bad-value', { value: name, why: 'there is a file of that name' });
  await session.saveStack({ ownFiles: [...session.stack.ownFiles, { target, dialect: own.dialect }] });
}
