import { aboutKey, compareTexts, editsOfText, kindOf, nameKey, pathId, readSnippet } from '@/core';
import type { SettingsQuestions } from '../contract';
import type { QuestionsOf } from '../game/handlers';
import { futureDocument, settingsFile } from '../game/playerEdits';
import { settingRow } from './rows';
import { searchFor } from './searchView';

/** Longer settings files (characters) are edited by key: a page that holds them as text would be slow. */
const LONGEST_TEXT = 2 * 1024 * 1024;
/** Lines of a snippet that are shown. */
const MOST_LINES = 2000;
/** Files that are offered to choose from. */
const MOST_FILES = 2000;

export const settingsQuestions: QuestionsOf<SettingsQuestions> = {
  'about key': async ({ open }, { file, path }) => {
    const readMes = await Promise.all(
      open
        .packLayers()
        .map(async ({ packId, name }) => ({ pack: name, text: (await open.openPack(packId)).readMe?.text ?? '' })),
    );
    return aboutKey({ file, path }, open.picture.settings, readMes);
  },
  'setting row': ({ open }, { file, path }) => settingRow(open, file, path),
  'settings text': ({ open }, { file }) => {
    const { keys } = settingsFile(open, file);
    const { text } = futureDocument(open, file);
    const tooLong = text.length > LONGEST_TEXT;
    return {
      text: tooLong ? '' : text,
      tooLong,
      known: keys.map(({ path, type, min, max, options }) => [nameKey(pathId(path)), { type, min, max, options }]),
    };
  },
  'preview text': ({ open }, { file, text }) => {
    const before = futureDocument(open, file);
    const change = editsOfText(before, text, settingsFile(open, file).dialect);
    return { edits: change.edits.length, lines: compareTexts(before.text, change.text), other: change.other };
  },
  'find in search': ({ open }, { file, name }) => searchFor(open, settingsFile(open, file), name),
  'read snippet': ({ open }, { text }) => {
    const { settings, settingsFiles } = open.picture;
    const files = settingsFiles.flatMap(({ target, dialect }) => {
      const document = settings.get(target);
      return document ? [{ target, dialect, document }] : [];
    });
    return readSnippet(text, files).map((place) => ({ ...place, lines: place.lines.slice(0, MOST_LINES) }));
  },
  'files of game': ({ open }) =>
    open.picture.ownFiles
      .filter((file) => ['settings', 'text', 'other'].includes(kindOf(file)))
      .sort()
      .slice(0, MOST_FILES),
};
