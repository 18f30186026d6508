import type { PackEntry } from '../archives/pack';
import type { WordStep } from '../inspect/step';
import { endsLikeArchive } from '../media/archiveEndings';
import { kindOf } from '../media/kinds';
import { ADDITIONS } from '../names/families';
import { baseName, extensionOf, nameKey, parentOf, stemOf, target, type TargetPath } from '../paths/paths';
import { figure, oneOr } from '../words';
import { slugOf, type Context } from './context';
import { WEIGHTS, pointsOf, sign, type Evidence } from './evidence';
import { sharedFolder } from '../placed/packFolders';
import { weighty } from './plans';

/** An archive that stays one: as it came, or packed anew from a folder of it. */
export interface Zipped {
  to: TargetPath;
  /** The folder of the pack that is packed anew, where what the game looks for lies a level too deep. */
  from?: string;
  /** It bears another ending there, as its neighbours do. */
  renamed?: boolean;
  evidence: Evidence[];
  points: number;
}

/** Archives that have nothing in common are the game's own data: one more among them counts this share. */
const OF_MANY_KINDS = 0.2;

/** Folders of one ending that are looked at. */
const MOST_HOMES = 6;

/** Do the archives in a folder have a file or a folder of one name in common? Unknown ones could. */
function ofOneKind(folder: string, inside: ReadonlyMap<string, readonly string[]>): boolean {
  const known = [...inside]
    .filter(([archive]) => nameKey(parentOf(archive)) === folder)
    .map(([, paths]) => new Set(paths.flatMap((path) => [nameKey(path), nameKey(path.split('/')[0] as string)])));
  const [first] = known;
  return (
    !first ||
    known.length < 2 ||
    [...first].some((name) => known.filter((set) => set.has(name)).length > known.length / 2)
  );
}

/**
 * Folders where archives lie: those of the download's ending, and those of an ending of the game's own. The ones with
 * most first.
 */
function homesOf({ knowledge, name, inside }: Context): Home[] {
  const ending = extensionOf(name);
  const others = new Set([...inside.keys()].map(extensionOf).filter((one) => one !== ending && one !== ''));
  return [ending, ...(ending === 'zip' ? others : [])].flatMap((under) =>
    [...(knowledge.homes.get(under) ?? [])]
      .sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))
      .slice(0, MOST_HOMES)
      .map(([folder, count]) => ({ folder, count, all: knowledge.endings.get(under) ?? 0, under })),
  );
}

/** Should the archive stay as it is? Judged by what lies where it would lie, and by the read-me. */
export function keptZipped(entries: readonly PackEntry[], context: Context): Zipped | undefined {
  const { name, steps } = context;
  const ending = extensionOf(name);
  if (ending === '' || entries.some(({ path }) => extensionOf(path) === ending || kindOf(path) === 'archive'))
    return undefined;
  let best: Zipped | undefined;
  for (const home of homesOf(context)) {
    const found = zippedIn(home, entries, context);
    if (found && (!best || found.points > best.points)) best = found;
  }
  const told = steps.some(({ kind }) => kind === 'keep zipped');
  for (const step of told ? steps : []) {
    if (step.kind !== 'put' || step.folders.length !== 1) continue;
    const evidence: Evidence[] = [
      { weight: WEIGHTS.told, says: `The read-me says so: “${step.text}”`, line: step.line },
    ];
    const points = WEIGHTS.told + 1;
    if (!best || best.points < points) best = { to: target(step.folders[0] as string, name), evidence, points };
  }
  return best;
}

/** Each folder where archives of the download's ending lie, for a pack that says nothing of where it belongs. */
export const zippedAmong = (context: Context): TargetPath[] =>
  homesOf(context)
    .filter(({ under }) => under === extensionOf(context.name))
    .map(({ folder }) => target(context.tree.folders.get(folder) as string, context.name));

/** A folder where archives of an ending lie. */
interface Home {
  folder: string;
  /** How many lie there, and how many the game has in all. */
  count: number;
  all: number;
  /** The ending. */
  under: string;
}

/** The archive as one more of those in a folder; undefined where it does not look like them. */
function zippedIn(home: Home, entries: readonly PackEntry[], context: Context): Zipped | undefined {
  const { tree, name, inside } = context;
  const { folder, count, all, under } = home;
  const ending = extensionOf(name);
  const top = sharedFolder(weighty(entries));
  const likeness = likenessTo(home, entries, context, top);
  // Archives under an ending of the game's own say nothing of a download that does not look like them inside.
  if (under !== ending && likeness.marked === undefined) return undefined;
  const deeper = likeness.marked === 'deeper';
  const kinds = ofOneKind(folder, inside) ? 1 : OF_MANY_KINDS;
  const evidence: Evidence[] = [
    {
      weight: ((WEIGHTS.amongArchives * count) / all) * (count > 1 ? 1 : 0.6) * kinds,
      says: `${oneOr(count, 'An archive lies', `${count} archives lie`)} there unopened.`,
    },
    ...weighLikeness(likeness, top),
    ...saidOfZips(context),
    ...byItsEnding(home, name),
  ];
  const renamed = deeper ? `${slugOf(baseName(top))}.${under}` : `${stemOf(name)}.${under}`;
  return {
    to: target(tree.folders.get(folder) as string, under === ending && !deeper ? name : renamed),
    ...(deeper ? { from: top } : {}),
    ...(under === ending ? {} : { renamed: true }),
    evidence,
    points: pointsOf(evidence),
  };
}

/** What the download has in common with the archives in a folder. */
interface Likeness {
  /** So many of them hold a file of the same path as one of its. */
  shared: number;
  /** A file that all of them hold lies at its top, or in its one folder there. */
  marked: 'top' | 'deeper' | undefined;
}

function likenessTo({ folder }: Home, entries: readonly PackEntry[], context: Context, top: string): Likeness {
  const { inside, knowledge } = context;
  const alike = [...inside]
    .filter(([archive]) => nameKey(parentOf(archive)) === folder)
    .map(([, paths]) => new Set(paths.flatMap((path) => [nameKey(path), extensionOf(path)])));
  const shared = alike.filter((set) => entries.some(({ path }) => set.has(nameKey(path)))).length;
  // A file by which things in folders are known, too, says less.
  const common = (path: string) => knowledge.families.some(({ core }) => core.has(`F:${nameKey(path)}`));
  const markedAt = (at: string) =>
    alike.length > 0 &&
    entries.some(
      ({ path }) =>
        parentOf(path) === at && !common(baseName(path)) && alike.every((set) => set.has(nameKey(baseName(path)))),
    );
  if (markedAt('')) return { shared, marked: 'top' };
  return { shared, marked: top !== '' && markedAt(top) ? 'deeper' : undefined };
}

function weighLikeness({ shared, marked }: Likeness, top: string): Evidence[] {
  if (shared === 0 && marked !== 'deeper') return [];
  const says =
    marked === 'deeper'
      ? `Those hold files that lie here in “${baseName(top)}”, a level too deep.`
      : 'Those hold files of the same paths.';
  return [{ weight: marked ? WEIGHTS.alikeArchives : WEIGHTS.atHome * 1.5, says }];
}

function saidOfZips({ steps }: Context): Evidence[] {
  const told = steps.find((step): step is WordStep => step.kind === 'keep zipped');
  return told ? [{ weight: WEIGHTS.told, says: `The read-me says so: “${told.text}”`, line: told.line }] : [];
}

/** An ending of the game's own says where such files lie; that of any archive does not. */
function byItsEnding({ folder, count, all }: Home, name: string): Evidence[] {
  if (endsLikeArchive(name)) return [];
  const says = `${figure(count)} of ${figure(all)} .${extensionOf(name)} files of the game lie there.`;
  const found: Evidence[] = [{ weight: (WEIGHTS.ending * count) / all, says }];
  if (ADDITIONS.has(baseName(folder)))
    found.push(sign('forPacks', `“${baseName(folder)}” is a name for what players add.`));
  return found;
}
