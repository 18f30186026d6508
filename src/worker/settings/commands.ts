import {
  SatchelError,
  addNumbered,
  addSearchFolder,
  editsOfText,
  moveSearchEntry,
  neededSwitches,
  pathId,
  nameProblem,
  renumber,
  searchEntries,
  type Edit,
  parseTarget,
} from '@/core';
import type { SettingsCommands } from '../contract';
import { editsLayer } from '../game/editsLayer';
import type { CommandsOf } from '../game/handlers';
import type { Session } from '../game/session';
import { changeList, futureDocument, noteEdits, settingsFile } from '../game/playerEdits';
import { removeSection } from './numbered';
import { newFile } from './ownFiles';
import { noteTried } from './tried';

/** Characters of a launch line; systems take no more. */
const LONGEST_LINE = 8000;

/** Changes of settings. All of them end as edits in the stack. */
export const settingsCommands: CommandsOf<SettingsCommands> = {
  'set edits': {
    title: 'Noting the edits',
    run: async ({ open }, { file, edits }) => {
      const wanted = edits.map(({ path, value }): Edit => (value === undefined ? { path } : { path, value }));
      await noteEdits(open, file, wanted);
      const [only, another] = edits;
      if (only?.value !== undefined && !another)
        await noteTried(open, { file: settingsFile(open, file).target, path: only.path, value: only.value });
    },
  },
  'drop edit': {
    title: 'Taking the edit back',
    run: ({ open }, { file, path }) =>
      // The card may not name the file any more.
      open.setEdits(parseTarget(file), (edits) => edits.filter((edit) => pathId(edit.path) !== pathId(path))),
  },
  'list item': { title: 'Changing the list', run: ({ open }, change) => changeList(open, change) },
  'number add': {
    title: 'Adding the section',
    run: async ({ open }, { file, keys }) => {
      const { target, numbered } = settingsFile(open, file);
      const wanted = keys.filter(({ key }) => key.trim() !== '');
      if (numbered) await noteEdits(open, target, addNumbered(futureDocument(open, target), numbered.section, wanted));
    },
  },
  'number remove': {
    title: 'Taking the section out',
    run: ({ open }, { file, section }) => removeSection(open, settingsFile(open, file), section),
  },
  renumber: {
    title: 'Closing the gaps',
    run: async ({ open }, { file }) => {
      const { target, numbered } = settingsFile(open, file);
      if (numbered)
        await noteEdits(open, target, renumber(futureDocument(open, target), numbered.section, numbered.first));
    },
  },
  'search move': {
    title: 'Changing the order',
    run: async ({ open }, { file, from, to }) => {
      const { target, search } = settingsFile(open, file);
      if (search)
        await noteEdits(open, target, moveSearchEntry(searchEntries(futureDocument(open, target), search), from, to));
    },
  },
  'search add': { title: 'Adding the folder', run: ({ open }, wanted) => addToSearch(open, wanted) },
  'launch line': { title: 'Changing the launch line', run: ({ open }, { line }) => setLaunchLine(open, line.trim()) },
  'take text': {
    title: 'Noting the edits',
    run: ({ open }, { file, text }) => {
      const { target, dialect } = settingsFile(open, file);
      return noteEdits(open, target, editsOfText(futureDocument(open, target), text, dialect).edits);
    },
  },
  'new file': { title: 'Making the file', run: ({ open }, { name }) => newFile(open, name) },
  'switch file': {
    title: 'Switching the file',
    run: ({ open }, { file, on }) =>
      open.saveStack({
        layers: open.stack.layers.map((layer) =>
          layer.kind === 'edits' && layer.file === file ? { ...layer, on } : layer,
        ),
      }),
  },
  'drop file': {
    title: 'Taking the file away',
    run: ({ open }, { file }) =>
      open.saveStack({
        ownFiles: open.stack.ownFiles.filter(({ target }) => target !== file),
        layers: open.stack.layers.filter((layer) => layer.kind !== 'edits' || layer.file !== file),
      }),
  },
  'save set': { title: 'Saving the set', run: ({ open }, { name }) => saveSet(open, name.trim().slice(0, 80)) },
  'use set': {
    title: 'Taking the set',
    run: ({ open }, { id }) => {
      const set = open.stack.sets.find((one) => one.id === id);
      if (!set) throw new SatchelError('unknown-thing', { what: 'set of that name' });
      const others = open.stack.layers.filter(({ kind }) => kind !== 'edits');
      return open.saveStack({ layers: [...others, ...set.files.map(({ file, edits }) => editsLayer(file, edits))] });
    },
  },
  'forget set': {
    title: 'Forgetting the set',
    run: ({ open }, { id }) => open.saveStack({ sets: open.stack.sets.filter((one) => one.id !== id) }),
  },
  'note value': {
    title: 'Noting it',
    run: ({ open }, { file, path, value, note }) =>
      noteTried(open, { file: settingsFile(open, file).target, path, value, note: note.trim().slice(0, 300) }),
  },
  'machine memory': {
    title: 'Noting it',
    run: ({ open }, { memory }) => open.saveStack({ machineMemory: memory }),
  },
  'turn on': {
    title: 'Turning it on',
    run: async ({ open }, { switch: id }) => {
      for (const { file, path, on } of neededSwitches(open.game.card.switches, id))
        if (open.picture.settings.get(file)?.get(path) !== on)
          await noteEdits(open, file, [{ path: [...path], value: on }]);
    },
  },
};

async function addToSearch(
  open: Session,
  { file, folder: written, each }: { file: string; folder: string; each: boolean },
): Promise<void> {
  const { target, search } = settingsFile(open, file);
  if (!search) return;
  const folder = written
    .trim()
    .replaceAll('\\', '/')
    .replace(/^\/+|\/+$/g, '');
  if (folder === '' || folder.split('/').some((name) => nameProblem(name)))
    throw new SatchelError('bad-value', { value: written, why: 'it is no folder inside the game' });
  const entries = searchEntries(futureDocument(open, target), search);
  await noteEdits(open, target, [addSearchFolder(entries, search, folder, each)]);
}

async function setLaunchLine(open: Session, line: string): Promise<void> {
  if (/[\r\n]/.test(line) || line.length > LONGEST_LINE)
    throw new SatchelError('bad-value', { value: line.slice(0, 40), why: 'a launch line stands on one line' });
  const { launch } = open.game.card;
  await (launch?.file !== undefined && launch.path
    ? noteEdits(open, launch.file, [{ path: [...launch.path], value: line }])
    : open.saveStack({ launchLine: line }));
}

async function saveSet(open: Session, name: string): Promise<void> {
  if (name === '') throw new SatchelError('bad-value', { value: '', why: 'a set needs a name' });
  const files = open.editsLayers().map(({ file, edits }) => ({ file, edits }));
  const at = Date.now();
  await open.saveStack({
    sets: [...open.stack.sets.filter((one) => one.name !== name), { id: `set-${at.toString(36)}`, name, at, files }],
  });
}
