import { withoutArchiveEnding } from '../archives/endings';
import type { PackEntry } from '../archives/pack';
import type { Edition, GameCard } from '../games/card';
import type { StatedFact } from '../inspect/stated';
import type { ImageInfo } from '../media/inspectImage';
import { largest } from '../lists';
import { kindOf } from '../media/kinds';
import { baseName, extensionOf, nameKey, parentOf } from '../paths/paths';
import { isProgram } from './baggage';
import { gameFile, gameTreeOf } from './gameTree';
import { placeFiles, type Placement } from './placement';
import { ownTitles } from './titles';

/** Something to know before anything is written. */
export interface Warning {
  code: 'wrong-region' | 'unknown-id' | 'texture-too-large' | 'texture-format' | 'patch-mismatch' | 'needs-pack' | 'needs-patch' | 'needs-contents' | 'program-inside' | 'hidden-extension' | 'case-differs' | 'one-file-twice' | 'id-taken' | 'other-edition';
  level: 'wrong' | 'note';
  says: string;
  /** What to do, in one sentence. */
  next: string;
  /** The files it is about, some of them where they are many. */
  paths: string[];
  files: number;
}

export interface WarningInput {
  card: GameCard;
  entries: readonly PackEntry[];
  placement: Placement;
  /** Every file of the game as a target, without what packs brought. */
  gameFiles: readonly string[];
  /** What is known of the pack's pictures, by path. */
  images: ReadonlyMap<string, ImageInfo>;
  facts: readonly StatedFact[];
  /** The other packs in the stack, with what they state. */
  others: readonly { name: string; facts: readonly StatedFact[] }[];
}

/** The edition that is installed, by its marker file. */
export const installedEdition = (card: GameCard, gameFiles: readonly string[]): Edition | undefined => {
  const keys = new Set(gameFiles.map(nameKey));
  return card.editions.find(({ marker }) => marker !== undefined && keys.has(nameKey(marker))) ?? (card.editions.length === 1 ? card.editions[0] : undefined);
};

const few = (files: readonly { path: string }[]): Pick<Warning, 'paths' | 'files'> => ({ paths: files.slice(0, 5).map(({ path }) => path), files: files.length });
const words = (text: string): string => withoutArchiveEnding(nameKey(text)).replace(/[^\p{L}\p{N}]+/gu, ' ').trim();
/** Is a needed pack among these names? Version numbers and small words do not matter. */
export const isNeeded = (need: string, name: string): boolean => {
  const wanted = words(need).replace(/\b\d[\d ]*$/, '').trim();
  return wanted !== '' && (` ${words(name)} `.includes(` ${wanted} `) || ` ${wanted} `.includes(` ${words(name).replace(/\b\d[\d ]*$/, '').trim()} `));
};

/** Everything about a pack that should be known before it is deployed, the serious things first. */
export function placementWarnings(input: WarningInput): Warning[] {
  const warnings = [...titleWarnings(input), ...textureWarnings(input), ...needWarnings(input), ...fileWarnings(input)];
  return warnings.sort((a, b) => Number(a.level === 'note') - Number(b.level === 'note'));
}

function titleWarnings({ card, entries, placement, gameFiles }: WarningInput): Warning[] {
  const { titles } = card;
  if (!titles) return [];
  const own = new Set(ownTitles(titles, gameTreeOf(card.roots.map((root) => root.id), gameFiles)).map(({ id }) => nameKey(id)));
  const into = `${nameKey(titles.into)}/`;
  const found: Warning[] = [];
  // Files that were put elsewhere by hand lie there no more.
  const left = placement.decisions.moves.length === 0 ? undefined : new Set(placeFiles(entries, placement).map(({ target }) => nameKey(target.slice(into.length).split('/')[0] ?? '')));
  for (const rule of placement.rules) {
    if (rule.as !== 'files' || !nameKey(rule.to).startsWith(into)) continue;
    if (left && !left.has(nameKey(rule.to.slice(into.length).split('/')[0] ?? ''))) continue;
    const id = rule.to.slice(into.length).split('/')[0] as string;
    if (own.has(nameKey(id))) continue;
    const known = titles.known.find((title) => nameKey(title.id) === nameKey(id));
    found.push(known
      ? { code: 'wrong-region', level: 'wrong', says: `“${id}” is ${known.title} for ${known.region}; you do not have it, so these textures will not load.`, next: 'Choose your own title’s id above.', paths: [rule.from], files: 1 }
      : { code: 'unknown-id', level: 'wrong', says: `“${id}” is no title id that the game card knows.`, next: 'Choose one of your titles’ ids above.', paths: [rule.from], files: 1 });
  }
  return found;
}

function textureWarnings({ card, entries, placement, gameFiles, images }: WarningInput): Warning[] {
  const edition = installedEdition(card, gameFiles);
  if (!edition) return [];
  const placed = placement.rules.some(({ as }) => as === 'whole') ? entries : placeFiles(entries, placement);
  const found: Warning[] = [];
  const { maxTexture, textureFormats } = edition;
  const large = maxTexture === undefined ? [] : placed.filter(({ path }) => {
    const image = images.get(path);
    return image && Math.max(image.width, image.height) > maxTexture;
  });
  if (large.length > 0) {
    const most = largest(large.map(({ path }) => Math.max(images.get(path)?.width ?? 0, images.get(path)?.height ?? 0)));
    found.push({ code: 'texture-too-large', level: 'wrong', says: `${large.length === 1 ? 'One of its textures is' : `${large.length.toLocaleString('en')} of its textures are`} larger than the ${edition.title} can read: up to ${most} pixels, where ${maxTexture} are the limit.`, next: 'It can stop the game at its main menu. Look for a smaller edition of the pack, or leave these files out.', ...few(large) });
  }
  const odd = textureFormats === undefined ? [] : placed.filter(({ path }) => ['picture', 'texture'].includes(kindOf(path)) && !textureFormats.includes(extensionOf(path).replace('jpg', 'jpeg')));
  if (odd.length > 0) found.push({ code: 'texture-format', level: 'wrong', says: `${odd.length === 1 ? 'One of its textures is' : `${odd.length.toLocaleString('en')} of its textures are`} in a format that the ${edition.title} cannot read (${[...new Set(odd.map(({ path }) => extensionOf(path)))].join(', ')}).`, next: `It reads ${textureFormats?.join(', ')}. Look for another edition of the pack.`, ...few(odd) });
  return found;
}

const factsOf = (facts: readonly StatedFact[], kind: StatedFact['kind']): StatedFact[] => facts.filter((fact) => fact.kind === kind);

/** Do two versions differ only in their third number, or not at all? Common practice: such a patch usually still works. */
export const closeVersions = (a: string, b: string): boolean => {
  const [x, y] = [a, b].map((version) => version.split('.').map(Number));
  return (x?.[0] ?? 0) === (y?.[0] ?? 0) && (x?.[1] ?? 0) === (y?.[1] ?? 0);
};

/** Is this the pack that another one calls by this name? */
const isMeant = (value: string, { name, facts }: { name: string; facts: readonly StatedFact[] }): boolean =>
  isNeeded(value, name) || factsOf(facts, 'title').some((fact) => isNeeded(value, fact.value)) || factsOf(facts, 'id').some((fact) => words(fact.value) === words(value));

/** The pack that a patch says it needs, among others. */
export const packBase = <T extends { name: string; facts: readonly StatedFact[] }>(facts: readonly StatedFact[], others: readonly T[]): T | undefined =>
  others.find((other) => factsOf(facts, 'needs').some(({ value }) => isMeant(value, other)));

function needWarnings({ card, gameFiles, facts, others }: WarningInput): Warning[] {
  const found: Warning[] = [];
  const keys = new Set(gameFiles.map(nameKey));
  for (const { value, where } of factsOf(facts, 'needs')) {
    const set = card.contents.find(({ title, id, words: more }) => [title, id, ...more].some((word) => words(value).includes(words(word))));
    if (set) {
      if (!keys.has(nameKey(set.marker))) found.push({ code: 'needs-contents', level: 'wrong', says: `It borrows from “${set.title}”, which this game does not have.`, next: 'What it borrows will show in glaring placeholder colours until that set is installed.', paths: [where], files: 1 });
      continue;
    }
    const base = others.find((other) => isMeant(value, other));
    if (!base) {
      found.push({ code: 'needs-pack', level: 'wrong', says: `It needs “${value}”, which is not in your stack.`, next: 'Bring that pack in as well, below this one.', paths: [where], files: 1 });
      continue;
    }
    const [mine, theirs] = (['resolution', 'version'] as const).map((kind) => [factsOf(facts, kind)[0]?.value, factsOf(base.facts, kind)[0]?.value] as const);
    if (mine?.[0] && mine[1] && mine[0] !== mine[1]) found.push({ code: 'patch-mismatch', level: 'wrong', says: `It is made for a resolution of ${mine[0]}; “${base.name}” has ${mine[1]}.`, next: 'A patch and its base must have the same resolution. Get the other one to fit.', paths: [where], files: 1 });
    const wantedVersion = /\b(\d+(?:\.\d+){1,3})\b/.exec(value)?.[1] ?? theirs?.[0];
    if (wantedVersion && theirs?.[1] && !closeVersions(wantedVersion, theirs[1])) found.push({ code: 'patch-mismatch', level: 'note', says: `It is made for version ${wantedVersion}; “${base.name}” is ${theirs[1]}.`, next: 'It may still work. Look out for missing or doubled things after the first start.', paths: [where], files: 1 });
  }
  for (const { value, where } of factsOf(facts, 'patch'))
    if (!others.some((other) => isMeant(value, other))) found.push({ code: 'needs-patch', level: 'wrong', says: `It is a base that needs its patch “${value}”, which is not in your stack.`, next: 'Bring the patch in as well; it goes above its base.', paths: [where], files: 1 });
  for (const { value, where } of factsOf(facts, 'id')) {
    const other = others.find(({ facts: theirs }) => factsOf(theirs, 'id').some((fact) => fact.value === value));
    if (other) found.push({ code: 'id-taken', level: 'wrong', says: `Its id “${value}” is the one that “${other.name}” has too; the game loads only one of them.`, next: 'Keep one of the two, or change the id in one manifest.', paths: [where], files: 1 });
  }
  const edition = installedEdition(card, gameFiles);
  const stated = factsOf(facts, 'edition');
  if (edition && stated.length > 0 && !stated.some(({ value }) => words(value) === words(edition.title) || words(value) === words(edition.id)) && !card.recipes.length)
    found.push({ code: 'other-edition', level: 'wrong', says: `It says that it is for ${stated.map(({ value }) => value).join(', ')}; you have the ${edition.title}.`, next: 'Look for an edition of the pack that fits.', paths: stated.map(({ where }) => where), files: 1 });
  return found;
}

/** An ending that hides what a file really is: `x.json.txt`, `face.png.exe`. With hidden extensions players see only the first. */
const HIDDEN = /\.(ini|cfg|xml|json|lang|png|dds|jpe?g|wav|ogg|zip|txt)\.(txt|exe|scr|com|bat|lnk|zip|html?)$/i;

function fileWarnings({ card, entries, placement, gameFiles }: WarningInput): Warning[] {
  const found: Warning[] = [];
  const placed = placeFiles(entries, placement);
  const programs = entries.filter(({ path }) => kindOf(path) === 'program');
  const running = new Set(placed.filter(({ path }) => isProgram(path) || kindOf(path) === 'program').map(({ path }) => path));
  if (programs.length > 0)
    found.push({ code: 'program-inside', level: running.size > 0 ? 'wrong' : 'note', says: `There ${programs.length === 1 ? 'is a program or script' : `are ${programs.length.toLocaleString('en')} programs or scripts`} inside${running.size > 0 ? `, and ${running.size === 1 ? 'one goes' : `${running.size} go`} into the game` : ''}.`, next: running.size > 0 ? 'The game may run it. Leave it in only if you trust where it came from.' : 'They stay out. The app never runs anything out of a pack.', ...few(programs) });
  const hidden = entries.filter(({ path }) => HIDDEN.test(baseName(path)));
  if (hidden.length > 0) found.push({ code: 'hidden-extension', level: 'wrong', says: `“${baseName(hidden[0]?.path ?? '')}” is not what it seems where the computer hides endings.`, next: 'The game will not find it under this name. Ask its maker, or leave it out.', ...few(hidden) });
  // The tree that proposals were made with knows how the game spells its names.
  const tree = gameTreeOf(card.roots.map((root) => root.id), gameFiles);
  const differs = placed.filter(({ target, inside }) => {
    if (inside !== undefined) return false;
    const own = gameFile(tree, nameKey(target));
    if (own !== undefined) return own !== target;
    const folder = tree.folders.get(nameKey(parentOf(target)));
    return folder !== undefined && folder !== parentOf(target);
  });
  if (differs.length > 0) found.push({ code: 'case-differs', level: 'note', says: `${differs.length === 1 ? 'One of its names differs' : `${differs.length.toLocaleString('en')} of its names differ`} from the game’s own only in capitals or in how letters are composed.`, next: 'They are written under the game’s own spelling.', ...few(differs) });
  const seen = new Map<string, string>();
  const twice = placed.filter(({ path, target, inside }) => {
    const key = nameKey(inside === undefined ? target : `${target}!/${inside}`);
    const before = seen.get(key);
    seen.set(key, path);
    return before !== undefined;
  });
  if (twice.length > 0) found.push({ code: 'one-file-twice', level: 'note', says: `${twice.length === 1 ? 'One of its files goes' : `${twice.length.toLocaleString('en')} of its files go`} to a place where another file of this pack goes too.`, next: 'The later one is used: an optional part over the base. Leave one out if that is not meant.', ...few(twice) });
  return found;
}
