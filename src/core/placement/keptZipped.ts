import type { PackEntry } from '../archives/pack';
import type { WordStep } from '../inspect/step';
import { endsLikeArchive } from '../media/archiveEndings';
import { kindOf } from '../media/kinds';
import { ADDITIONS } from '../names/families';
import { baseName, extensionOf, nameKey, parentOf, stemOf, target, type TargetPath } from '../paths/paths';
import { figure, oneOr } from '../words';
import { slugOf, type Context } from './context';
import { WEIGHTS, pointsOf, sign, type Evidence } from './evidence';
import { sharedFolder } from './overTree';
import { weighty } from './plans';

/** An archive that stays one: as it came, or packed anew from a folder of it. */
interface Zipped {
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
function homesOf({
  knowledge,
  name,
  inside,
}: Context): { folder: string; count: number; all: number; under: string }[] {
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
  const { tree, knowledge, name, steps, inside } = context;
  const ending = extensionOf(name);
  if (ending === '' || entries.some(({ path }) => extensionOf(path) === ending || kindOf(path) === 'archive'))
    return undefined;
  const told = steps.find((step): step is WordStep => step.kind === 'keep zipped');
  const top = sharedFolder(weighty(entries));
  let best: Zipped | undefined;
  for (const { folder, count, all, under } of homesOf(context)) {
    const evidence: Evidence[] = [
      {
        weight:
          ((WEIGHTS.amongArchives * count) / all) *
          (count > 1 ? 1 : 0.6) *
          (ofOneKind(folder, inside) ? 1 : OF_MANY_KINDS),
        says: `${oneOr(count, 'An archive lies', `${count} archives lie`)} there unopened.`,
      },
    ];
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
    const marked = markedAt('');
    const deeper = !marked && top !== '' && markedAt(top);
    // Archives under an ending of the game's own say nothing of a download that does not look like them inside.
    if (under !== ending && !marked && !deeper) continue;
    if (shared > 0 || deeper)
      evidence.push({
        weight: marked || deeper ? WEIGHTS.alikeArchives : WEIGHTS.atHome * 1.5,
        says: deeper
          ? `Those hold files that lie here in “${baseName(top)}”, a level too deep.`
          : 'Those hold files of the same paths.',
      });
    if (told) evidence.push({ weight: WEIGHTS.told, says: `The read-me says so: “${told.text}”`, line: told.line });
    if (!endsLikeArchive(name)) {
      evidence.push({
        weight: (WEIGHTS.ending * count) / all,
        says: `${figure(count)} of ${figure(all)} .${ending} files of the game lie there.`,
      });
      if (ADDITIONS.has(baseName(folder)))
        evidence.push(sign('forPacks', `“${baseName(folder)}” is a name for what players add.`));
    }
    const spelled = tree.folders.get(folder) as string;
    const points = pointsOf(evidence);
    if (!best || points > best.points)
      best = {
        to: target(
          spelled,
          deeper ? `${slugOf(baseName(top))}.${under}` : under === ending ? name : `${stemOf(name)}.${under}`,
        ),
        ...(deeper ? { from: top } : {}),
        ...(under === ending ? {} : { renamed: true }),
        evidence,
        points,
      };
  }
  for (const step of told ? steps : []) {
    if (step.kind !== 'put' || step.folders.length !== 1) continue;
    const [folder] = step.folders as [string];
    const evidence: Evidence[] = [
      { weight: WEIGHTS.told, says: `The read-me says so: “${step.text}”`, line: step.line },
    ];
    if (!best || best.points < WEIGHTS.told + 1)
      best = { to: target(folder, name), evidence, points: WEIGHTS.told + 1 };
  }
  return best;
}
