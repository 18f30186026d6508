import { kindOf } from '../media/kinds';
import { gameFile, gameTreeOf } from '../names/gameTree';
import { baseName, nameKey, parentOf } from '../paths/paths';
import { isProgram } from '../placed/baggage';
import { placeFiles } from '../placed/placement';
import { needWarnings } from './needWarnings';
import { textureWarnings } from './textureWarnings';
import { ownTitles } from './titles';
import { few, one, type Warning, type WarningFact, type WarningInput } from './warning';
import { inWords } from './warningWords';

/** Everything about a pack that should be known before it is deployed, the serious things first. */
export function placementWarnings(input: WarningInput): Warning[] {
  const facts = [...titleWarnings(input), ...textureWarnings(input), ...needWarnings(input), ...fileWarnings(input)];
  return facts.map(inWords).sort((a, b) => Number(a.level === 'note') - Number(b.level === 'note'));
}

function titleWarnings({ card, entries, placement, gameFiles }: WarningInput): WarningFact[] {
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
  const found: WarningFact[] = [];
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
            id,
            title: known.title,
            region: known.region,
            ...one(rule.from),
          }
        : {
            code: 'unknown-id',
            level: 'wrong',
            id,
            ...one(rule.from),
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

function fileWarnings({ card, entries, placement, gameFiles }: WarningInput): WarningFact[] {
  const found: WarningFact[] = [];
  const placed = placeFiles(entries, placement);
  const programs = entries.filter(({ path }) => kindOf(path) === 'program');
  const running = new Set(
    placed.filter(({ path }) => isProgram(path) || kindOf(path) === 'program').map(({ path }) => path),
  );
  if (programs.length > 0)
    found.push({
      code: 'program-inside',
      level: running.size > 0 ? 'wrong' : 'note',
      running: running.size,
      ...few(programs),
    });
  const hidden = entries.filter(({ path }) => HIDDEN.test(baseName(path)));
  if (hidden.length > 0)
    found.push({
      code: 'hidden-extension',
      level: 'wrong',
      name: baseName(hidden[0]?.path ?? ''),
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
      ...few(twice),
    });
  return found;
}
