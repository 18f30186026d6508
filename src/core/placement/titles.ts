import type { PackEntry } from '../archives/pack';
import type { TitleCard } from '../games/card';
import { addAll } from '../lists';
import { kindOf } from '../media/kinds';
import { isUnder, joinPath, nameKey, type TargetPath } from '../paths/paths';
import { ask, emptyResult, type Context, type PoolResult } from './context';
import { gameFile, type GameTree } from '../names/gameTree';
import { packFolders } from '../placed/packFolders';

/** The titles that the player has, by the files that show it. */
export function ownTitles(
  { found, sealed, known }: TitleCard,
  tree: GameTree,
): { id: string; title: string; region: string }[] {
  return known.filter(({ id }) =>
    [found, ...(sealed ? [sealed.file] : [])].some(
      (file) => gameFile(tree, nameKey(file.replace('{id}', id))) !== undefined,
    ),
  );
}

interface IdFolder {
  /** Path of the folder in the pack, down to the id. */
  folder: string;
  id: string;
  files: PackEntry[];
}

function idFolders(
  entries: readonly PackEntry[],
  { pattern, known }: TitleCard,
): { folders: IdFolder[]; rest: PackEntry[] } {
  const fits = new RegExp(`^(?:${pattern})$`, 'i');
  const listed = new Map(known.map(({ id }) => [nameKey(id), id]));
  const folders = new Map<string, IdFolder>();
  const rest: PackEntry[] = [];
  for (const { names, keys, files } of packFolders(entries)) {
    const at = names.findIndex((name, i) => listed.has(keys[i] as string) || fits.test(name));
    if (at < 0) {
      for (const file of files) rest.push(file);
      continue;
    }
    const folder = names.slice(0, at + 1).join('/');
    const made = folders.get(folder) ?? {
      folder,
      id: listed.get(keys[at] as string) ?? (names[at] as string),
      files: [],
    };
    for (const file of files) made.files.push(file);
    folders.set(folder, made);
  }
  return { folders: [...folders.values()], rest };
}

/**
 * The folder whose contents go into the folder that is read: the inner one, however often or not at all it is there.
 */
function innermost(folder: string, files: readonly PackEntry[], inner: string): string {
  if (inner === '') return folder;
  let at = folder;
  for (;;) {
    const inside = files.filter(({ path }) => isUnder(path, at));
    const next = new Set(
      inside
        .map(({ path }) => path.slice(at.length + 1))
        .map((path) => (path.includes('/') ? path.slice(0, path.indexOf('/')) : '')),
    );
    const [only] = next;
    if (next.size === 1 && only && nameKey(only) === nameKey(inner)) at = joinPath(at, only);
    else return at;
  }
}

/**
 * Places texture folders that are named after title ids. Common practice: the wrong region's id does not load; the same
 * textures serve another region under its id; without an id folder one is made, with the inner folder that the program
 * reads.
 *
 * @returns undefined where the pack has nothing to do with titles
 */
export function placeByTitle(entries: readonly PackEntry[], context: Context): PoolResult | undefined {
  const { card, tree } = context;
  const { titles } = card;
  if (!titles) return undefined;
  const own = ownTitles(titles, tree);
  const { folders, rest } = idFolders(entries, titles);
  return folders.length > 0
    ? { ...placeIdFolders(folders, { own, titles }, context), rest }
    : makeIdFolder(entries, own, titles, context);
}

const mentions = (name: string, title: string): boolean =>
  nameKey(name)
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .includes(nameKey(title).replace(/[^\p{L}\p{N}]+/gu, ' '));

function goal(titles: TitleCard, id: string): TargetPath {
  return joinPath(titles.into, id, titles.inner);
}

type OwnTitle = ReturnType<typeof ownTitles>[number];

function placeIdFolders(
  folders: readonly IdFolder[],
  { own, titles }: { own: readonly OwnTitle[]; titles: TitleCard },
  context: Context,
): PoolResult {
  const result = emptyResult();
  const known = new Map(titles.known.map((title) => [nameKey(title.id), title]));
  const mine = new Set(own.map(({ id }) => nameKey(id)));
  const right = folders.filter(({ id }) => mine.has(nameKey(id)));
  const put = (folder: IdFolder, id: string, why: string) => placeIdFolder(result, folder, { titles, id, why });
  for (const one of folders) {
    const { id, files } = one;
    const title = known.get(nameKey(id));
    if (mine.has(nameKey(id))) {
      put(one, id, `“${id}” is your ${title?.title ?? 'title'} (${title?.region ?? ''}).`);
      continue;
    }
    const sameTitle = own.filter((other) => other.title === title?.title);
    // The pack holds the player's region as well: the other one's folder is of no use.
    if (sameTitle.length > 0 && right.some((other) => known.get(nameKey(other.id))?.title === title?.title)) {
      addAll(
        result.leftOut,
        files.map(({ path }) => ({ path, why: 'another region' as const })),
      );
      continue;
    }
    const answer = askForTitle(one, title, { own, sameTitle }, context);
    if (answer === undefined) result.confidence = 'ask';
    put(one, answer ?? sameTitle[0]?.id ?? id, whyUnder(id, answer));
  }
  return result;
}

function whyUnder(id: string, answer: string | undefined): string {
  if (answer === undefined) return 'It waits for your answer.';
  return nameKey(answer) === nameKey(id)
    ? 'You left the id as it is.'
    : `The textures go under “${answer}” instead of “${id}”.`;
}

/** Asks under which of the player's ids a folder for another one goes. */
function askForTitle(
  { folder, id }: IdFolder,
  title: OwnTitle | undefined,
  { own, sameTitle }: { own: readonly OwnTitle[]; sameTitle: readonly OwnTitle[] },
  context: Context,
): string | undefined {
  const options = (sameTitle.length > 0 ? sameTitle : own).map((one) => ({
    id: one.id,
    label: `Use ${one.id}`,
    says: `${one.title}, ${one.region}: one of your titles`,
  }));
  const [answer] = ask(
    context,
    {
      id: `title:${folder}`,
      kind: 'one',
      title: title
        ? `“${id}” is ${title.title} for ${title.region}; you do not have that one`
        : `“${id}” is no title id that the app knows`,
      why: title
        ? 'A texture folder named after another region’s id does not load. The same textures work under your own id.'
        : 'A texture folder loads only under the id of a title you have.',
      options: [...options, { id, label: `Leave it as ${id}`, says: 'It will not load with the titles you have' }],
      suggested: sameTitle.length === 1 ? [sameTitle[0]?.id as string] : [],
    },
    false,
  );
  return answer;
}

function placeIdFolder(
  result: PoolResult,
  { folder, files }: IdFolder,
  { titles, id, why }: { titles: TitleCard; id: string; why: string },
): void {
  const from = innermost(folder, files, titles.inner);
  const to = goal(titles, id);
  const mended = titles.inner !== '' && nameKey(from) !== nameKey(joinPath(folder, titles.inner));
  const inner =
    from === folder
      ? ` The inner folder “${titles.inner}” was missing and is made.`
      : ` The inner folder “${titles.inner}” stood there more than once.`;
  result.rules.push({ as: 'files', from, to });
  result.parts.push({ mode: 'title', from, to, files: files.length, reason: `${why}${mended ? inner : ''}` });
}

/** Only pictures, and no id anywhere: the textures of a title whose folder has to be made. */
function makeIdFolder(
  entries: readonly PackEntry[],
  own: { id: string; title: string; region: string }[],
  titles: TitleCard,
  context: Context,
): PoolResult | undefined {
  const textures = entries.filter(({ path }) => ['picture', 'texture'].includes(kindOf(path)));
  if (textures.length === 0 || textures.length * 2 < entries.length || own.length === 0) return undefined;
  const named = own.filter(({ title, id }) => mentions(context.name, title) || mentions(context.name, id));
  const fits = named.length > 0 ? named : own;
  const [answer] =
    fits.length === 1
      ? [fits[0]?.id]
      : ask(
          context,
          {
            id: 'title',
            kind: 'one',
            title: 'Which of your titles are these textures for?',
            why: 'The pack has no folder named after a title id, so one is made.',
            options: fits.map(({ id, title, region }) => ({ id, label: id, says: `${title}, ${region}` })),
            suggested: [],
          },
          false,
        );
  const top = sharedTop(textures, titles.inner);
  const result = { ...emptyResult(), rest: entries.filter(({ path }) => !isUnder(path, top)) };
  const id = answer ?? fits[0]?.id ?? '';
  const to = goal(titles, id);
  result.confidence = answer === undefined ? 'ask' : named.length === 1 ? 'sure' : 'likely';
  result.rules.push({ as: 'files', from: top, to });
  result.parts.push({
    mode: 'title',
    from: top,
    to,
    files: entries.length - result.rest.length,
    reason: `It has no folder named after a title id; one is made for ${fits.find((one) => one.id === id)?.title ?? id} (“${id}”), with the inner folder “${titles.inner}”.`,
  });
  return result;
}

/** The wrapper folders above all textures, down to the inner folder where it is there. */
function sharedTop(textures: readonly PackEntry[], inner: string): string {
  const first = textures[0]?.path.split('/').slice(0, -1) ?? [];
  let shared = first;
  for (const { path } of textures) {
    const names = path.split('/');
    let depth = 0;
    while (depth < shared.length && depth < names.length - 1 && names[depth] === shared[depth]) depth++;
    shared = shared.slice(0, depth);
  }
  const at = shared.findIndex((name) => inner !== '' && nameKey(name) === nameKey(inner));
  return at >= 0 ? shared.slice(0, at + 1).join('/') : shared.join('/');
}
