import { baseName, isUnder, nameKey, fillTarget } from '../paths/paths';
import { oneOr } from '../words';
import { at, list, move, placeNamer, within, type BeforeInput } from './beforeInput';
import type { Finding, PresentFile } from './finding';
import { nearestNames } from './nearest';

export function titleChecks(input: BeforeInput): Finding[] {
  const { titles } = input.card;
  if (!titles) return [];
  const present = new Set(input.files.map(({ target }) => nameKey(target)));
  const isOpen = (id: string) => present.has(nameKey(titles.found.replace('{id}', id)));
  const sealedFile = (id: string) => titles.sealed && fillTarget(titles.sealed.file, '{id}', id);
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
  const shown = placeNamer(input);
  const goal = (id: string) => at(titles.into, id, titles.inner);
  for (const [folder, files] of groups) {
    const layer = files[0]?.file.layer ?? '';
    const name = input.nameOf(layer);
    const known = titles.known.find(({ id }) => nameKey(id) === nameKey(folder));
    const mine = own.find(({ id }) => nameKey(id) === nameKey(folder));
    const here = at(titles.into, folder);
    const there = `${oneOr(files.length, 'One file', `${files.length} files`)} in ${shown(here)}.`;
    if (mine) {
      const inner = goal(mine.id);
      const archive = sealedFile(mine.id);
      if (titles.sealed && archive !== undefined && isSealed(mine.id))
        found.push({
          id: `sealed:${mine.id}`,
          level: 'wrong',
          layer,
          about: archive,
          title: `${mine.title} is kept in one file, and “${name}” cannot work with that`,
          evidence: `${shown(archive)}; ${there}`,
          cause: titles.sealed.why,
          fixes: [{ kind: 'unpack', label: `Unpack ${baseName(archive)}`, archive, to: titles.sealed.opens }],
        });
      const outside =
        titles.inner === '' ? [] : files.filter(({ file }) => !isUnder(nameKey(file.target), nameKey(inner)));
      const twice =
        titles.inner === ''
          ? []
          : files.filter(
              ({ file }) =>
                isUnder(nameKey(file.target), nameKey(at(inner, titles.inner))) &&
                file.target.length > at(inner, titles.inner).length,
            );
      if (outside.length > 0)
        found.push({
          id: `too-high:${folder}`,
          level: 'wrong',
          layer,
          about: here,
          title: `“${name}” lies one level too high`,
          evidence: `${oneOr(outside.length, 'One file lies', `${outside.length} files lie`)} outside of ${shown(inner)}: ${list(outside.map(({ rest }) => rest))}.`,
          cause: `The program reads ${shown(inner)} alone.`,
          fixes: move(
            `Move it into “${titles.inner}”`,
            outside.map(({ file }) => ({ from: file.target, to: at(inner, file.target.slice(here.length + 1)) })),
          ),
        });
      if (twice.length > 0)
        found.push({
          id: `too-deep:${folder}`,
          level: 'wrong',
          layer,
          about: at(inner, titles.inner),
          title: `“${name}” lies one level too deep`,
          evidence: `${oneOr(twice.length, 'One file lies', `${twice.length} files lie`)} in ${shown(at(inner, titles.inner))}.`,
          cause: `The program reads ${shown(inner)} alone.`,
          fixes: move(
            'Move it up',
            twice.map(({ file }) => ({
              from: file.target,
              to: at(inner, file.target.slice(at(inner, titles.inner).length + 1)),
            })),
          ),
        });
      continue;
    }
    const nested = fits.test(folder)
      ? undefined
      : files
          .map(({ rest }) => rest.split('/')[1] ?? '')
          .find((one) => own.some(({ id }) => nameKey(id) === nameKey(one)));
    if (nested !== undefined) {
      found.push({
        id: `too-deep:${folder}`,
        level: 'wrong',
        layer,
        about: here,
        title: `“${name}” lies one level too deep`,
        evidence: `The folder ${nested} lies inside “${folder}”.`,
        cause: `The program looks for folders of ids right inside ${shown(titles.into)}.`,
        fixes: move(
          'Move it up',
          files.map(({ file }) => ({ from: file.target, to: at(titles.into, file.target.slice(here.length + 1)) })),
        ),
      });
      continue;
    }
    const same = own.find(({ title }) => title === known?.title) ?? (own.length === 1 ? own[0] : undefined);
    const near = known
      ? undefined
      : nearestNames(
          folder,
          own.map(({ id }) => id),
        )[0];
    const right = near ?? same?.id;
    const base =
      titles.inner !== '' && files.every(({ rest }) => nameKey(rest.split('/')[1] ?? '') === nameKey(titles.inner))
        ? at(here, titles.inner)
        : here;
    found.push({
      id: `wrong-id:${folder}`,
      level: 'wrong',
      layer,
      about: here,
      title: known
        ? `“${name}” is for the ${known.region} edition`
        : folder === ''
          ? `“${name}” lies in no folder of an id`
          : `“${folder}” is no id of a title that you have`,
      evidence: `${there} You have ${own.map(({ id, title }) => `${title} (${id})`).join(', ') || 'no title at all'}.`,
      cause: 'A folder with another id is not looked at. The same pictures work once the folder bears your title’s id.',
      fixes:
        right === undefined
          ? [{ kind: 'go', label: 'Place it', step: 'place' }]
          : move(
              `Rename the folder to ${right}`,
              files.map(({ file }) => ({ from: file.target, to: at(goal(right), file.target.slice(base.length + 1)) })),
            ),
    });
  }
  return found;
}
