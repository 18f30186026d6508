import { kindOf } from '../media/kinds';
import { gameFile, gameTreeOf } from '../names/gameTree';
import { baseName, nameKey, parentOf } from '../paths/paths';
import { isProgram } from '../placed/baggage';
import { placeFiles } from '../placed/placement';
import { figure, oneOr } from '../words';
import { needWarnings } from './needWarnings';
import { textureWarnings } from './textureWarnings';
import { ownTitles } from './titles';
import { few, type Warning, type WarningInput } from './warning';

/** Everything about a pack that should be known before it is deployed, the serious things first. */
export function placementWarnings(input: WarningInput): Warning[] {
  const warnings = [...titleWarnings(input), ...textureWarnings(input), ...needWarnings(input), ...fileWarnings(input)];
  return warnings.sort((a, b) => Number(a.level === 'note') - Number(b.level === 'note'));
}

function titleWarnings({ card, entries, placement, gameFiles }: WarningInput): Warning[] {
  const { titles } = card;
  if (!titles) return [];
  const own = new Set(
    ownTitles(
      titles,
      gameTreeOf(
        card.roots.map((root) => root.id),
        gameFiles,
      ),
    ).map(({ id }) => nameKey(id)),
  );
  const into = `${nameKey(titles.into)}/`;
  const found: Warning[] = [];
  // Files that were put elsewhere by hand lie there no more.
  const left =
    placement.decisions.moves.length === 0
      ? undefined
      : new Set(
          placeFiles(entries, placement).map(({ target }) => nameKey(target.slice(into.length).split('/')[0] ?? '')),
        );
  for (const rule of placement.rules) {
    if (rule.as !== 'files' || !nameKey(rule.to).startsWith(into)) continue;
    if (left && !left.has(nameKey(rule.to.slice(into.length).split('/')[0] ?? ''))) continue;
    const id = rule.to.slice(into.length).split('/')[0] as string;
    if (own.has(nameKey(id))) continue;
    const known = titles.known.find((title) => nameKey(title.id) === nameKey(id));
    found.push(
      known
        ? {
            code: 'wrong-region',
            level: 'wrong',
            says: `“${id}” is ${known.title} for ${known.region}; you do not have it, so these textures will not load.`,
            next: 'Choose your own title’s id above.',
            paths: [rule.from],
            files: 1,
          }
        : {
            code: 'unknown-id',
            level: 'wrong',
            says: `“${id}” is no title id that the game card knows.`,
            next: 'Choose one of your titles’ ids above.',
            paths: [rule.from],
            files: 1,
          },
    );
  }
  return found;
}

/**
 * An ending that hides what a file really is: `x.json.txt`, `face.png.exe`. With hidden extensions players see only the
 * first.
 */
const HIDDEN = /\.(ini|cfg|xml|json|lang|png|dds|jpe?g|wav|ogg|zip|txt)\.(txt|exe|scr|com|bat|lnk|zip|html?)$/i;

function fileWarnings({ card, entries, placement, gameFiles }: WarningInput): Warning[] {
  const found: Warning[] = [];
  const placed = placeFiles(entries, placement);
  const programs = entries.filter(({ path }) => kindOf(path) === 'program');
  const running = new Set(
    placed.filter(({ path }) => isProgram(path) || kindOf(path) === 'program').map(({ path }) => path),
  );
  if (programs.length > 0)
    found.push({
      code: 'program-inside',
      level: running.size > 0 ? 'wrong' : 'note',
      says: `There ${oneOr(programs.length, 'is a program or script', `are ${figure(programs.length)} programs or scripts`)} inside${running.size > 0 ? `, and ${oneOr(running.size, 'one goes', `${running.size} go`)} into the game` : ''}.`,
      next:
        running.size > 0
          ? 'The game may run it. Leave it in only if you trust where it came from.'
          : 'They stay out. The app never runs anything out of a pack.',
      ...few(programs),
    });
  const hidden = entries.filter(({ path }) => HIDDEN.test(baseName(path)));
  if (hidden.length > 0)
    found.push({
      code: 'hidden-extension',
      level: 'wrong',
      says: `“${baseName(hidden[0]?.path ?? '')}” is not what it seems where the computer hides endings.`,
      next: 'The game will not find it under this name. Ask its maker, or leave it out.',
      ...few(hidden),
    });
  // The tree that proposals were made with knows how the game spells its names.
  const tree = gameTreeOf(
    card.roots.map((root) => root.id),
    gameFiles,
  );
  const differs = placed.filter(({ target, inside }) => {
    if (inside !== undefined) return false;
    const own = gameFile(tree, nameKey(target));
    if (own !== undefined) return own !== target;
    const folder = tree.folders.get(nameKey(parentOf(target)));
    return folder !== undefined && folder !== parentOf(target);
  });
  if (differs.length > 0)
    found.push({
      code: 'case-differs',
      level: 'note',
      says: `${oneOr(differs.length, 'One of its names differs', `${figure(differs.length)} of its names differ`)} from the game’s own only in capitals or in how letters are composed.`,
      next: 'They are written under the game’s own spelling.',
      ...few(differs),
    });
  const seen = new Map<string, string>();
  const twice = placed.filter(({ path, target, inside }) => {
    const key = nameKey(inside === undefined ? target : `${target}!/${inside}`);
    const before = seen.get(key);
    seen.set(key, path);
    return before !== undefined;
  });
  if (twice.length > 0)
    found.push({
      code: 'one-file-twice',
      level: 'note',
      says: `${oneOr(twice.length, 'One of its files goes', `${figure(twice.length)} of its files go`)} to a place where another file of this pack goes too.`,
      next: 'The later one is used: an optional part over the base. Leave one out if that is not meant.',
      ...few(twice),
    });
  return found;
}
