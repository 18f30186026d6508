import { baseName } from '../paths/paths';
import { figure, megabytes, oneOr } from '../words';
import { LOG_WORDS } from './logWords';
import type { Trouble, TroubleKind } from './trouble';
import { list, NEAR_SAYS, type Names, type Sentences, type WordsFor } from './wordsFor';

const depth = (path: string): number => path.split('/').length;
const keyOf = (path: readonly string[]): string => path.join(' › ');

const FILES: WordsFor<
  | 'straight-in'
  | 'add-on too deep'
  | 'no manifest'
  | 'unzipped'
  | 'bad manifest'
  | 'id taken'
  | 'hides texts'
  | 'refers to nothing'
> = {
  'straight-in': ({ layer, into, files, why }, { shown, nameOf }) => ({
    title: `“${nameOf(layer)}” lies straight in ${shown(into)}`,
    evidence: `${oneOr(files.length, 'One file', `${files.length} files`)}: ${list(files.map(shown))}.`,
    cause: why,
  }),
  'add-on too deep': ({ folder, at, inner, wanted, has, why }, { shown }) => ({
    title: `“${folder}” lies ${oneOr(depth(inner) - depth(at), 'one level', 'some levels')} too deep`,
    evidence: `The game looks for ${shown(wanted)}; it is ${shown(has)}.`,
    cause: why,
  }),
  'no manifest': ({ folder, at, marker, files }, { shown }) => ({
    title: `“${folder}” has no ${marker}`,
    evidence: `${oneOr(files, 'One file lies', `${files} files lie`)} in ${shown(at)}, and no ${marker} beside them.`,
    cause: `Without ${marker} the game does not take the folder for an add-on.`,
  }),
  unzipped: ({ layer, into, inside, why }, { shown, nameOf }) => ({
    title: `“${nameOf(layer)}” must stay zipped`,
    evidence: `${oneOr(inside.length, 'One file lies', `${inside.length} files lie`)} unzipped in ${shown(into)}: ${list(inside)}.`,
    cause: why,
  }),
  'bad manifest': ({ target, form }, { shown }) => ({
    title: `The game cannot read ${shown(target)}`,
    evidence: `It is not ${form === 'json' ? 'JSON' : 'made of keys and values'}: a comma, a quote or a bracket is missing.`,
    cause: 'A pack whose manifest cannot be read is passed over.',
  }),
  'id taken': ({ idTaken, target, other }, { shown }) => ({
    title: `Two packs have the id “${idTaken}”`,
    evidence: `${shown(other)} and ${shown(target)}.`,
    cause: 'The game loads one of them and passes over the other.',
  }),
  'hides texts': ({ layer, target, lost, why }, { shown, nameOf }) => ({
    title: `${oneOr(lost.length, 'One text', `${lost.length} texts`)} of the game will be missing`,
    evidence: `“${nameOf(layer)}” brings a file named like the game’s own ${shown(target)}; the game’s has ${list(lost)}, and the pack’s has not.`,
    cause: why,
  }),
  'refers to nothing': ({ target, line, meant, near, set, why }, { shown }) => ({
    title: `${baseName(meant)} is asked for and not there`,
    evidence: `Line ${line} of ${shown(target)} wants ${shown(meant)}.${near ? ` There is ${shown(near.path)}: ${NEAR_SAYS[near.kind]}.` : ''}`,
    cause: set === undefined ? why : `It comes from “${set}”, which you do not have. ${why}`,
  }),
};

const filesIn = (files: number, place: string): string => `${oneOr(files, 'One file', `${files} files`)} in ${place}.`;

const TITLES: WordsFor<'sealed' | 'too high' | 'too deep' | 'id inside' | 'wrong id'> = {
  sealed: ({ layer, title, archive, here, files, why }, { shown, nameOf }) => ({
    title: `${title} is kept in one file, and “${nameOf(layer)}” cannot work with that`,
    evidence: `${shown(archive)}; ${filesIn(files, shown(here))}`,
    cause: why,
  }),
  'too high': ({ layer, inner, files }, { shown, nameOf }) => ({
    title: `“${nameOf(layer)}” lies one level too high`,
    evidence: `${oneOr(files.length, 'One file lies', `${files.length} files lie`)} outside of ${shown(inner)}: ${list(files.map(({ rest }) => rest))}.`,
    cause: `The program reads ${shown(inner)} alone.`,
  }),
  'too deep': ({ layer, inner, twice, files }, { shown, nameOf }) => ({
    title: `“${nameOf(layer)}” lies one level too deep`,
    evidence: `${oneOr(files.length, 'One file lies', `${files.length} files lie`)} in ${shown(twice)}.`,
    cause: `The program reads ${shown(inner)} alone.`,
  }),
  'id inside': ({ layer, folder, nested, into }, { shown, nameOf }) => ({
    title: `“${nameOf(layer)}” lies one level too deep`,
    evidence: `The folder ${nested} lies inside “${folder}”.`,
    cause: `The program looks for folders of ids right inside ${shown(into)}.`,
  }),
  'wrong id': ({ layer, folder, here, files, region, own }, { shown, nameOf }) => ({
    title:
      region !== undefined
        ? `“${nameOf(layer)}” is for the ${region} edition`
        : folder === ''
          ? `“${nameOf(layer)}” lies in no folder of an id`
          : `“${folder}” is no id of a title that you have`,
    evidence: `${filesIn(files.length, shown(here))} You have ${own.map(({ id, title }) => `${title} (${id})`).join(', ') || 'no title at all'}.`,
    cause: 'A folder with another id is not looked at. The same pictures work once the folder bears your title’s id.',
  }),
};

const SETTINGS: WordsFor<
  'out of range' | 'no such folder' | 'not listed' | 'lost edit' | 'too much memory' | 'fought over' | 'switch off'
> = {
  'out of range': ({ file, path, value, wrong, meaning }, { shown }) => ({
    title: `${path.at(-1)} is ${value}: ${wrong}`,
    evidence: `${keyOf(path)} in ${shown(file)}.`,
    cause: meaning,
  }),
  'no such folder': ({ file, section, key, value, inside, near }, { shown }) => ({
    title: `[${section}] names a folder that is not there`,
    evidence: `${key}=${value} in ${shown(file)}; ${near === undefined ? `${shown(inside)} has no such folder` : `there is “${near}”`}.`,
    cause: 'The folder that a numbered section names must be there under that name, letter for letter.',
  }),
  'not listed': ({ file, path, item, pack }, { shown }) => ({
    title: `“${item}” is not in the list`,
    evidence: `${keyOf(path)} in ${shown(file)} does not name it; “${pack}” brings it.`,
    cause: 'The game looks into the folders alone that the list names.',
  }),
  'lost edit': ({ file, path, value, now, fate, times, by }, { shown }) => ({
    title:
      fate === 'dropped'
        ? `The game dropped ${keyOf(path)}${times > 1 ? `, ${times} times now` : ''}`
        : `${keyOf(path)} was changed since`,
    evidence: `${shown(file)}: it should be ${value ?? 'gone'} for ${by === 'you' ? 'you' : `“${by}”`}, and is ${now ?? 'not there'}.`,
    cause:
      times > 1
        ? 'The game does not keep it: look for another name or place for this key.'
        : 'Some games throw a new key out at the first start and keep it when it is put in again.',
  }),
  'too much memory': ({ file, path, now, why }, { shown }) => ({
    title: `${path.at(-1)} is on, and the textures do not fit into memory`,
    evidence: `${keyOf(path)} in ${shown(file)} is ${now ?? 'on'}.`,
    cause: why,
  }),
  'fought over': ({ file, path, wants }, { shown }) => ({
    title: `${path.at(-1)} is wanted in ${new Set(wants.map(({ value }) => value)).size} ways`,
    evidence: `${shown(file)}: ${wants.map(({ by, value }) => `“${by}” wants ${value ?? 'it gone'}`).join(', ')}.`,
    cause: `“${wants.at(-1)?.by ?? ''}” gets its way, because it lies higher in the stack.`,
  }),
  'switch off': ({ title, file, path, on, value, neededBy, why }, { shown }) => ({
    title: `“${title}” is off`,
    evidence: `${keyOf(path)} in ${shown(file)} is ${value === undefined ? 'not there' : value}; ${figure(neededBy)} files of your packs need it to be ${on}.`,
    cause: why,
  }),
};

/** What it means that so many of so many files were loaded. */
function whyLoaded(loaded: number, counted: number): string {
  if (loaded >= counted) return 'Each of them was found and accepted.';
  return loaded === 0
    ? 'Either a switch is off or the game looks in another folder.'
    : 'Some files were not found or not accepted; the log’s warnings name them.';
}

const ALL: WordsFor<
  'warning' | 'too little room' | 'drift' | 'pending' | 'silent' | 'ended early' | 'loaded' | 'said loaded'
> = {
  warning: ({ name, warning: { says, next, paths } }) => ({
    title: `“${name}”: ${says}`,
    evidence: paths.length === 0 ? `The pack “${name}”.` : paths.join(', '),
    cause: next,
  }),
  'too little room': ({ disk, needed, left }) => ({
    title: 'The next deployment does not fit on the disk',
    evidence: `It needs ${megabytes(needed)} on ${disk}; ${megabytes(left, 'down')} are free.`,
    cause:
      'New files are written beside the old ones, and originals are kept twice, so both need room. ' +
      'Nothing is written before there is enough.',
  }),
  drift: ({ drifted }) => ({
    title: `${figure(drifted)} deployed ${oneOr(drifted, 'file was', 'files were')} changed by somebody else`,
    evidence: `The Deploy page lists ${oneOr(drifted, 'it', 'them')}.`,
    cause: 'The game’s updater, another program or your own hand.',
  }),
  pending: ({ pending }) => ({
    title: oneOr(
      pending,
      '1 change is not in the game folder yet',
      `${figure(pending)} changes are not in the game folder yet`,
    ),
    evidence: `The plan on the Deploy page lists ${oneOr(pending, 'it', 'them')}.`,
    cause: 'The game only sees what has been deployed.',
  }),
  silent: ({ log }, { shown }) => ({
    title: 'The game ended without writing a line',
    evidence: `There is no ${shown(log)} after the last start.`,
    cause: 'Something that is loaded early stops it. Nothing says what, so it is found by halves.',
  }),
  'ended early': ({ lines }) => ({
    title: 'The game stopped before it was ready',
    evidence: `The log ends after ${figure(lines)} lines, without the line that a good start ends with.`,
    cause:
      'Something that was loaded last stopped it, and it did not say what. Textures above the limit do that; ' +
      'the packs’ warnings name them. If nothing is named, find it by halves.',
  }),
  loaded: ({ loaded, counted }) => ({
    title:
      loaded >= counted
        ? `All ${figure(counted)} files of your packs were loaded`
        : loaded === 0
          ? `None of your packs’ ${figure(counted)} files was loaded`
          : `Only ${figure(loaded)} of your packs’ ${figure(counted)} files were loaded`,
    evidence: `The game’s log says ${figure(loaded)}; ${figure(counted)} are deployed.`,
    cause: whyLoaded(loaded, counted),
  }),
  'said loaded': ({ count, what, line, text, packs }) => ({
    title: `The game says that it loaded ${figure(count)} ${what}`,
    evidence: `Line ${figure(line)} of its log: “${text}”. Of your packs ${oneOr(packs, 'one is', `${figure(packs)} are`)} in the game.`,
    cause:
      count === 0
        ? 'Either a switch is off or the game looks in another folder.'
        : 'What it counts need not be what you count: its own can be among them.',
  }),
};

const WORDS: WordsFor<TroubleKind> = { ...FILES, ...TITLES, ...SETTINGS, ...ALL, ...LOG_WORDS };

/** The sentences for what was found: one place for all of them. */
export const troubleWords = (trouble: Trouble, names: Names): Sentences =>
  (WORDS[trouble.kind] as (one: Trouble, names: Names) => Sentences)(trouble, names);
