import type { PackEntry } from '../archives/pack';
import type { GameTree } from '../names/gameTree';
import { idForm } from '../names/ids';
import { formOf, type Knowledge } from '../names/knowledge';
import { isLanguage } from '../names/languages';
import { commonOf, namesThere, withoutNumber, type NamesThere } from '../names/namesThere';
import { baseName, extensionOf, nameKey, parentOf, quotedTarget, stemOf } from '../paths/paths';
import { WEIGHTS, saturate, sign, type Evidence } from './evidence';

/** Files of one name and other endings, where the game has such pairs: what belongs together lies together. */
export function weighTwins(file: string, to: string, beside: readonly PackEntry[], tree: GameTree): Evidence[] {
  const stem = nameKey(stemOf(file));
  const others = beside
    .filter(({ path }) => path !== file && nameKey(stemOf(path)) === stem)
    .map(({ path }) => extensionOf(path));
  if (others.length === 0) return [];
  const names = tree.files.get(nameKey(parentOf(to)));
  if (!names || names.size > MOST_PAIRED) return [];
  const ending = extensionOf(file);
  const ofEnding = [...names.keys()].filter((name) => extensionOf(name) === ending);
  const pairs = others.some((other) => ofEnding.filter((name) => names.has(`${stemOf(name)}.${other}`)).length >= 2);
  return pairs ? [{ weight: WEIGHTS.twins, says: `Files there come in pairs like “${stemOf(file)}”.` }] : [];
}
/** In fuller folders no pairs are looked for. */
const MOST_PAIRED = 2000;

/** What speaks for a single file in a folder of the game. */
export function weighFile(file: string, to: string, tree: GameTree, knowledge: Knowledge): Evidence[] {
  const own = tree.files.get(nameKey(parentOf(to))) ?? NO_NAMES;
  const same = own.has(nameKey(baseName(to)));
  return [
    ...(same ? [sameName(to, tree)] : []),
    ...byEnding(file, to, own, knowledge),
    ...(same ? [] : oneOfThem(file, namesThere(own))),
  ];
}
const NO_NAMES: ReadonlyMap<string, string> = new Map();

function sameName(to: string, tree: GameTree): Evidence {
  const others = tree.foldersOfFile.get(nameKey(baseName(to)));
  const rare = 1 / (Array.isArray(others) ? others.length : 1);
  return {
    weight: WEIGHTS.samePath * saturate(rare) * WEIGHTS.sameName,
    says: `A file of this name is in ${quotedTarget(parentOf(to))}.`,
  };
}

/** Files of this ending lie there, and what their names have in common with its own. */
function byEnding(
  file: string,
  to: string,
  own: ReadonlyMap<string, string>,
  { homes, endings }: Knowledge,
): Evidence[] {
  const name = nameKey(baseName(file));
  const ending = extensionOf(file);
  const here = homes.get(ending)?.get(nameKey(parentOf(to))) ?? 0;
  const all = endings.get(ending) ?? 0;
  if (here === 0 || ending === '') return [];
  const weight = WEIGHTS.ending * (here / all) * (here > 1 ? 1 : 0.6);
  const some = here === all && all > 1 ? `All ${all}` : `${here} of ${all}`;
  const ofForm = here > 1 ? (namesThere(own).forms.get(commonOf(name, formOf(name))) ?? 0) : 0;
  return [
    { weight, says: `${some} .${ending} files of the game lie there.` },
    // Its own name, where it is there, says nothing of it.
    ...(ofForm > Number(own.has(name)) ? [sign('form', 'Its name has the form of the names there.')] : []),
  ];
}

/** Its name makes it one more of the files there: by its number, an id or a language. */
function oneOfThem(file: string, there: NamesThere): Evidence[] {
  const found: Evidence[] = [];
  const name = nameKey(baseName(file));
  const number = withoutNumber(name);
  if (number !== undefined && (there.series.get(number) ?? 0) >= 2)
    found.push(sign('series', 'It is the next of files there that differ only in their number.'));
  const id = idForm(stemOf(name));
  if (id !== undefined && (there.ids.get(commonOf(name, id)) ?? 0) >= 2)
    found.push({ weight: WEIGHTS.idsHere, says: 'Files there bear ids of this form.' });
  if (isLanguage(name) && (there.languages.get(extensionOf(name)) ?? 0) >= 2)
    found.push({ weight: WEIGHTS.language, says: 'Languages lie there, and its name is one.' });
  return found;
}
