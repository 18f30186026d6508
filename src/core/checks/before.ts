import { endsLikeArchive } from '../archives/endings';
import picomatch from 'picomatch';
import type { GameCard } from '../games/card';
import { baseName, extensionOf, isUnder, joinPath, nameKey, parentOf, type TargetPath } from '../paths/paths';
import { slugOf } from '../placement/context';
import type { SettingsFile } from '../placement/settingsFiles';
import { isWellFormed, openSettings } from '../settings/openSettings';
import type { SettingsDocument } from '../settings/document';
import { numberedSections, type NumberedSection } from '../settings/numbered';
import { searchContainers, searchEntries } from '../settings/searchOrder';
import { checkValue } from '../settings/values';
import { MOST_MOVES, hidingCures, type Finding, type Fix, type PresentFile } from './finding';
import { NearestFiles, nearestNames } from './nearest';

/** What is looked at before the game starts: the game as it will be after the next deployment. */
export interface BeforeInput {
  card: GameCard;
  files: readonly PresentFile[];
  /** Texts of manifests, of files that refer to others and of text files, by `nameKey` of their target. */
  texts: ReadonlyMap<string, string>;
  /** The game's own text files that a pack's file replaces, by `nameKey`. */
  originals: ReadonlyMap<string, string>;
  settings: readonly { file: SettingsFile; document: SettingsDocument }[];
  nameOf(layer: string): string;
}

const list = (names: readonly string[], most = 3): string => `${names.slice(0, most).map((name) => `“${name}”`).join(', ')}${names.length > most ? ` and ${names.length - most} more` : ''}`;
const move = (label: string, moves: { from: TargetPath; to: TargetPath }[]): Fix[] => (moves.length === 0 || moves.length > MOST_MOVES ? [] : [{ kind: 'move', label, moves }]);
const at = (...parts: string[]): TargetPath => joinPath(...parts) as TargetPath;

/** Everything that will not work, as far as that can be known before the game starts. */
export function checkBefore(input: BeforeInput): Finding[] {
  return [...addonChecks(input), ...titleChecks(input), ...zippedChecks(input), ...manifestChecks(input), ...textChecks(input), ...settingsChecks(input), ...referenceChecks(input)];
}

/** Files of packs in a folder, with their path below it. */
function within({ files }: BeforeInput, folder: string): { file: PresentFile; rest: string }[] {
  const key = nameKey(folder);
  return files.flatMap((file) => (file.layer !== undefined && isUnder(nameKey(file.target), key) && file.target.length > folder.length ? [{ file, rest: file.target.slice(folder.length + 1) }] : []));
}

function addonChecks(input: BeforeInput): Finding[] {
  const found: Finding[] = [];
  const present = new Set(input.files.map(({ target }) => nameKey(target)));
  for (const place of input.card.places) {
    if (place.mode !== 'own-folder') continue;
    const straight = new Map<string, PresentFile[]>();
    const folders = new Map<string, { file: PresentFile; rest: string }[]>();
    for (const one of within(input, place.into)) {
      const cut = one.rest.indexOf('/');
      if (cut < 0 || place.parts.some((part) => nameKey(part) === nameKey(one.rest.slice(0, cut)))) straight.set(one.file.layer ?? '', [...(straight.get(one.file.layer ?? '') ?? []), one.file]);
      else folders.set(one.rest.slice(0, cut), [...(folders.get(one.rest.slice(0, cut)) ?? []), one]);
    }
    for (const [layer, files] of straight) {
      const name = input.nameOf(layer);
      const into = at(place.into, slugOf(name));
      found.push({
        id: `straight-in:${layer}`, level: 'wrong', layer, about: files[0]?.target ?? place.into, title: `“${name}” lies straight in ${place.into}`,
        evidence: `${files.length === 1 ? 'One file' : `${files.length} files`}: ${list(files.map(({ target }) => target))}.`, cause: place.why,
        fixes: move(`Give it a folder of its own`, files.map(({ target }) => ({ from: target, to: at(into, target.slice(place.into.length + 1)) }))),
      });
    }
    for (const [folder, files] of place.marker === undefined ? [] : folders) {
      const marker = place.marker ?? '';
      if (present.has(nameKey(at(place.into, folder, marker)))) continue;
      const layer = files[0]?.file.layer ?? '';
      const deeper = files.find(({ rest }) => nameKey(baseName(rest)) === nameKey(marker));
      if (deeper) {
        const inner = at(place.into, parentOf(deeper.rest));
        const up = files.filter(({ file }) => isUnder(nameKey(file.target), nameKey(inner)));
        found.push({
          id: `too-deep:${folder}`, level: 'wrong', layer, about: inner, title: `“${folder}” lies ${inner.split('/').length - at(place.into, folder).split('/').length === 1 ? 'one level' : 'some levels'} too deep`,
          evidence: `The game looks for ${at(place.into, folder, marker)}; it is ${deeper.file.target}.`, cause: place.why,
          fixes: move('Move it up', up.map(({ file }) => ({ from: file.target, to: at(place.into, folder, file.target.slice(inner.length + 1)) }))),
        });
      } else
        found.push({
          id: `no-manifest:${folder}`, level: 'wrong', layer, about: at(place.into, folder, marker), title: `“${folder}” has no ${marker}`,
          evidence: `${files.length === 1 ? 'One file lies' : `${files.length} files lie`} in ${at(place.into, folder)}, and no ${marker} beside them.`, cause: `Without ${marker} the game does not take the folder for an add-on.`,
          fixes: [{ kind: 'add file', label: `Write a ${marker}`, to: at(place.into, folder, marker), text: `name = ${input.nameOf(layer)}\r\nversion = 1.0\r\n` }],
        });
    }
  }
  return found;
}

function titleChecks(input: BeforeInput): Finding[] {
  const { titles } = input.card;
  if (!titles) return [];
  const present = new Set(input.files.map(({ target }) => nameKey(target)));
  const isOpen = (id: string) => present.has(nameKey(titles.found.replace('{id}', id)));
  const sealedFile = (id: string) => titles.sealed?.file.replace('{id}', id) as TargetPath | undefined;
  const isSealed = (id: string) => !isOpen(id) && present.has(nameKey(sealedFile(id) ?? ''));
  const own = titles.known.filter(({ id }) => isOpen(id) || isSealed(id));
  const fits = new RegExp(`^(?:${titles.pattern})$`, 'i');
  const groups = new Map<string, { file: PresentFile; rest: string }[]>();
  for (const one of within(input, titles.into)) {
    const cut = one.rest.indexOf('/');
    const folder = cut < 0 ? '' : one.rest.slice(0, cut);
    groups.set(folder, [...(groups.get(folder) ?? []), one]);
  }
  const found: Finding[] = [];
  const goal = (id: string) => at(titles.into, id, titles.inner);
  for (const [folder, files] of groups) {
    const layer = files[0]?.file.layer ?? '';
    const name = input.nameOf(layer);
    const known = titles.known.find(({ id }) => nameKey(id) === nameKey(folder));
    const mine = own.find(({ id }) => nameKey(id) === nameKey(folder));
    const here = at(titles.into, folder);
    const shown = `${files.length === 1 ? 'One file' : `${files.length} files`} in ${here}.`;
    if (mine) {
      const inner = goal(mine.id);
      const archive = sealedFile(mine.id);
      if (titles.sealed && archive !== undefined && isSealed(mine.id))
        found.push({
          id: `sealed:${mine.id}`, level: 'wrong', layer, about: archive, title: `${mine.title} is kept in one file, and “${name}” cannot work with that`, evidence: `${archive}; ${shown}`, cause: titles.sealed.why,
          fixes: [{ kind: 'unpack', label: `Unpack ${baseName(archive)}`, archive, to: titles.sealed.opens as TargetPath }],
        });
      const outside = titles.inner === '' ? [] : files.filter(({ file }) => !isUnder(nameKey(file.target), nameKey(inner)));
      const twice = titles.inner === '' ? [] : files.filter(({ file }) => isUnder(nameKey(file.target), nameKey(at(inner, titles.inner))) && file.target.length > at(inner, titles.inner).length);
      if (outside.length > 0)
        found.push({ id: `too-high:${folder}`, level: 'wrong', layer, about: here, title: `“${name}” lies one level too high`, evidence: `${outside.length === 1 ? 'One file lies' : `${outside.length} files lie`} outside of ${inner}: ${list(outside.map(({ rest }) => rest))}.`, cause: `The program reads ${inner} alone.`, fixes: move(`Move it into “${titles.inner}”`, outside.map(({ file }) => ({ from: file.target, to: at(inner, file.target.slice(here.length + 1)) }))) });
      if (twice.length > 0)
        found.push({ id: `too-deep:${folder}`, level: 'wrong', layer, about: at(inner, titles.inner), title: `“${name}” lies one level too deep`, evidence: `${twice.length === 1 ? 'One file lies' : `${twice.length} files lie`} in ${at(inner, titles.inner)}.`, cause: `The program reads ${inner} alone.`, fixes: move('Move it up', twice.map(({ file }) => ({ from: file.target, to: at(inner, file.target.slice(at(inner, titles.inner).length + 1)) }))) });
      continue;
    }
    const nested = fits.test(folder) ? undefined : files.map(({ rest }) => rest.split('/')[1] ?? '').find((one) => own.some(({ id }) => nameKey(id) === nameKey(one)));
    if (nested !== undefined) {
      found.push({ id: `too-deep:${folder}`, level: 'wrong', layer, about: here, title: `“${name}” lies one level too deep`, evidence: `The folder ${nested} lies inside “${folder}”.`, cause: `The program looks for folders of ids right inside ${titles.into}.`, fixes: move('Move it up', files.map(({ file }) => ({ from: file.target, to: at(titles.into, file.target.slice(here.length + 1)) }))) });
      continue;
    }
    const same = own.find(({ title }) => title === known?.title) ?? (own.length === 1 ? own[0] : undefined);
    const near = known ? undefined : nearestNames(folder, own.map(({ id }) => id))[0];
    const right = near ?? same?.id;
    const base = titles.inner !== '' && files.every(({ rest }) => nameKey(rest.split('/')[1] ?? '') === nameKey(titles.inner)) ? at(here, titles.inner) : here;
    found.push({
      id: `wrong-id:${folder}`, level: 'wrong', layer, about: here,
      title: known ? `“${name}” is for the ${known.region} edition` : folder === '' ? `“${name}” lies in no folder of an id` : `“${folder}” is no id of a title that you have`,
      evidence: `${shown} You have ${own.map(({ id, title }) => `${title} (${id})`).join(', ') || 'no title at all'}.`, cause: 'A folder with another id is not looked at. The same pictures work once the folder bears your title’s id.',
      fixes: right === undefined ? [{ kind: 'go', label: 'Place it', step: 'place' }] : move(`Rename the folder to ${right}`, files.map(({ file }) => ({ from: file.target, to: at(goal(right), file.target.slice(base.length + 1)) }))),
    });
  }
  return found;
}

function zippedChecks(input: BeforeInput): Finding[] {
  return input.card.places.flatMap((place): Finding[] => {
    if (place.mode !== 'kept-zipped') return [];
    const byLayer = new Map<string, string[]>();
    for (const { file, rest } of within(input, place.into)) if (rest.includes('/') || !endsLikeArchive(rest)) byLayer.set(file.layer ?? '', [...(byLayer.get(file.layer ?? '') ?? []), rest]);
    return [...byLayer].map(([layer, rest]): Finding => ({
      id: `unzipped:${layer}`, level: 'wrong', layer, about: at(place.into, rest[0] ?? ''), title: `“${input.nameOf(layer)}” must stay zipped`, evidence: `${rest.length === 1 ? 'One file lies' : `${rest.length} files lie`} unzipped in ${place.into}: ${list(rest)}.`, cause: place.why, fixes: [{ kind: 'go', label: 'Place it again', step: 'place' }],
    }));
  });
}

function manifestChecks(input: BeforeInput): Finding[] {
  const found: Finding[] = [];
  for (const manifest of input.card.manifests) {
    const ids = new Map<string, { target: TargetPath; layer: string }>();
    for (const { target, layer } of input.files) {
      const text = layer === undefined || nameKey(baseName(target)) !== nameKey(manifest.file) ? undefined : input.texts.get(nameKey(target));
      if (text === undefined || layer === undefined) continue;
      if (!isWellFormed(text, manifest.form)) {
        found.push({ id: `bad-manifest:${target}`, level: 'wrong', layer, about: target, title: `The game cannot read ${target}`, evidence: `It is not ${manifest.form === 'json' ? 'JSON' : 'made of keys and values'}: a comma, a quote or a bracket is missing.`, cause: 'A pack whose manifest cannot be read is passed over.', fixes: [{ kind: 'take out', label: 'Take the pack out', layer }] });
        continue;
      }
      const document = openSettings(text, manifest.form);
      const id = manifest.fields.id?.map((field) => document.get(field.split('.'))).find((value) => value !== undefined);
      const other = id === undefined ? undefined : ids.get(nameKey(id));
      if (id !== undefined && other && other.layer !== layer) found.push({ id: `id-taken:${id}`, level: 'wrong', layer, about: target, title: `Two packs have the id “${id}”`, evidence: `${other.target} and ${target}.`, cause: 'The game loads one of them and passes over the other.', fixes: [{ kind: 'take out', label: `Take “${input.nameOf(layer)}” out`, layer }] });
      else if (id !== undefined) ids.set(nameKey(id), { target, layer });
    }
  }
  return found;
}

/** A file named like one of the game's own texts replaces it whole: what it does not have goes missing. */
function textChecks(input: BeforeInput): Finding[] {
  const found: Finding[] = [];
  for (const place of input.card.texts)
    for (const { target, layer } of input.files) {
      const key = nameKey(target);
      if (layer === undefined || !isUnder(key, nameKey(place.into)) || !key.endsWith(place.ending)) continue;
      const [text, original] = [input.texts.get(key), input.originals.get(key)];
      if (text === undefined || original === undefined) continue;
      const has = new Set(openSettings(text, place.dialect).entries().map(({ path }) => path.join('\n')));
      const lost = openSettings(original, place.dialect).entries().map(({ path }) => path.join(' › ')).filter((one) => !has.has(one.replaceAll(' › ', '\n')));
      if (lost.length === 0) continue;
      const name = input.nameOf(layer);
      found.push({
        id: `hides:${key}`, level: 'wrong', layer, about: target, title: `${lost.length === 1 ? 'One text' : `${lost.length} texts`} of the game will be missing`,
        evidence: `“${name}” brings a file named like the game’s own ${target}; the game’s has ${list(lost)}, and the pack’s has not.`, cause: place.why,
        fixes: hidingCures(target, name),
      });
    }
  return found;
}

function settingsChecks(input: BeforeInput): Finding[] {
  const found: Finding[] = [];
  for (const { file, document } of input.settings) {
    for (const key of file.keys) {
      const value = document.get(key.path);
      const wrong = value === undefined ? undefined : checkValue(key, value);
      if (value === undefined || wrong === undefined) continue;
      const better = key.default ?? (key.max !== undefined && Number(value) > key.max ? String(key.max) : key.min !== undefined && Number(value) < key.min ? String(key.min) : undefined);
      found.push({ id: `out-of-range:${file.target} ${key.path.join(' ')}`, level: 'wrong', about: `${file.target} › ${key.path.join(' › ')}`, title: `${key.path.at(-1)} is ${value}: ${wrong}`, evidence: `${key.path.join(' › ')} in ${file.target}.`, cause: key.meaning, fixes: better === undefined ? [{ kind: 'go', label: 'Change it', step: 'settings' }] : [{ kind: 'edit', label: `Set it to ${better}`, file: file.target, edit: { path: [...key.path], value: better } }] });
    }
    const { numbered } = file;
    if (numbered?.folder === undefined || numbered.inside === undefined) continue;
    const inside = numbered.inside;
    const folders = foldersIn(input.files, inside);
    for (const section of numberedSections(document, numbered.section)) {
      const wrong = wrongFolder(section, numbered.folder, folders);
      if (wrong?.value === undefined) continue;
      const { key, value, near } = wrong;
      found.push({
        id: `no-folder:${file.target} ${section.section}`, level: 'wrong', about: `${file.target} › ${section.section}`, title: `[${section.section}] names a folder that is not there`, evidence: `${key}=${value} in ${file.target}; ${near === undefined ? `${inside} has no such folder` : `there is “${near}”`}.`, cause: 'The folder that a numbered section names must be there under that name, letter for letter.',
        fixes: near === undefined ? [{ kind: 'go', label: 'Look at the section', step: 'settings' }] : [{ kind: 'edit', label: `Name “${near}”`, file: file.target, edit: { path: [section.section, key], value: near } }],
      });
    }
  }
  return found;
}

/** Names of the folders right inside a folder, as they are spelled. */
export function foldersIn(files: readonly PresentFile[], folder: string): Set<string> {
  const found = new Set<string>();
  const key = nameKey(folder);
  for (const { target } of files) {
    if (!isUnder(nameKey(target), key)) continue;
    const [name, more] = target.slice(folder.length + 1).split('/');
    if (name !== undefined && more !== undefined) found.add(name);
  }
  return found;
}

/**
 * What is wrong with the folder that a numbered section names: none is named, or none is there under that name, letter for
 * letter. Undefined where all is well; `near` is the folder that may be meant.
 */
export function wrongFolder(section: NumberedSection, folderKey: string, folders: ReadonlySet<string>): { key: string; value: string | undefined; near: string | undefined } | undefined {
  const named = section.keys.find(({ key }) => nameKey(key) === nameKey(folderKey));
  if (!named || named.value === '') return { key: folderKey, value: undefined, near: undefined };
  if (folders.has(named.value)) return undefined;
  return { ...named, near: [...folders].find((one) => nameKey(one) === nameKey(named.value)) ?? nearestNames(named.value, folders)[0] };
}

/** What files refer to and nobody provides: materials and their textures, lists and their files. */
function referenceChecks(input: BeforeInput): Finding[] {
  const found: Finding[] = [];
  if (input.card.references.length === 0) return found;
  const paths = input.files.map(({ target }) => target as string);
  const nearest = new NearestFiles(paths);
  const keys = new Set(paths.map(nameKey));
  const layerOf = new Map(input.files.map(({ target, layer }) => [target as string, layer]));
  const search = input.settings.flatMap(({ file, document }) => {
    if (!file.search) return [];
    const from = file.search.from;
    return searchContainers(searchEntries(document, file.search), paths.flatMap((path) => (path.startsWith(`${from}/`) ? [path.slice(from.length + 1)] : []))).map(({ folder }) => `${from}/${folder}`);
  });
  for (const { files: globs, pattern, needs, why } of input.card.references) {
    const fits = picomatch(globs, { nocase: true });
    const reads = new RegExp(pattern);
    for (const { target, layer } of input.files) {
      const text = fits(target) ? input.texts.get(nameKey(target)) : undefined;
      if (text === undefined) continue;
      // An add-on's own folder is the one above its parts.
      const own = parentOf(parentOf(target));
      text.split(/\r\n|\n|\r/).forEach((line, i) => {
        const name = reads.exec(line)?.groups?.name;
        if (name === undefined) return;
        const path = needs.replaceAll('{name}', name).replaceAll('{folder}', own);
        const wanted = path.includes('{search}') ? [own, ...search].map((folder) => path.replaceAll('{search}', folder)) : [path];
        const there = wanted.find((one) => nearest.has(one));
        if (there !== undefined) return;
        const first = wanted[0] as string;
        const inCase = wanted.find((one) => keys.has(nameKey(one)));
        const near = (inCase === undefined ? wanted : [inCase]).flatMap((one) => nearest.find(one, 2)).sort((a, b) => a.far - b.far)[0];
        const set = input.card.contents.find(({ marker, words }) => !keys.has(nameKey(marker)) && words.some((word) => nameKey(line).includes(nameKey(word)) || nameKey(name).includes(nameKey(word))));
        const goal = (inCase ?? first) as TargetPath;
        const fixes: Fix[] = [];
        if (near && layerOf.get(near.path) !== undefined) fixes.push(...move(near.kind === 'case' || near.kind === 'spelling' ? `Rename it to ${baseName(goal)}` : `Put “${near.path.split('/').slice(-2).join('/')}” there`, [{ from: near.path as TargetPath, to: goal }]));
        else if (near) fixes.push({ kind: 'stand-in', label: `Put a copy of “${near.path.split('/').slice(-2).join('/')}” there`, copy: near.path as TargetPath, to: goal });
        if (layer !== undefined) fixes.push({ kind: 'take out', label: `Take “${input.nameOf(layer)}” out`, layer });
        found.push({
          id: `refers:${nameKey(target)} ${nameKey(name)}`, level: 'wrong', ...(layer === undefined ? {} : { layer }), about: near?.path ?? goal, title: `${baseName(goal)} is asked for and not there`,
          evidence: `Line ${i + 1} of ${target} wants ${goal}.${near ? ` There is ${near.path}: ${NEAR_SAYS[near.kind]}.` : ''}`, cause: set ? `It comes from “${set.title}”, which you do not have. ${why}` : why, fixes,
        });
      });
    }
  }
  return found;
}

/** How a near file differs, as part of a sentence. */
export const NEAR_SAYS = {
  case: 'other capitals', 'hidden extension': 'a second extension that may be hidden', 'one level off': 'one folder level off', extension: 'another extension', spelling: 'spelled a little differently', folder: 'the same name in another folder',
} as const;

/** Which files' texts are needed for the checks. */
export function textsForChecks(card: GameCard, files: readonly PresentFile[]): TargetPath[] {
  const manifests = new Set(card.manifests.map(({ file }) => nameKey(file)));
  const refers = card.references.map(({ files: globs }) => picomatch(globs, { nocase: true }));
  const isText = (key: string) => card.texts.some(({ into, ending }) => isUnder(key, nameKey(into)) && key.endsWith(ending));
  return files.flatMap(({ target, layer }) => {
    const key = nameKey(target);
    if (['png', 'dds', 'wav', 'zip'].includes(extensionOf(target))) return [];
    return (layer !== undefined && manifests.has(nameKey(baseName(target)))) || isText(key) || refers.some((fits) => fits(target)) ? [target] : [];
  }).slice(0, 2000);
}
