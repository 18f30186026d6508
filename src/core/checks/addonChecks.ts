import { baseName, isUnder, nameKey, parentOf } from '../paths/paths';
import { slugOf } from '../placement/context';
import { oneOr } from '../words';
import { at, list, move, placeNamer, within, type BeforeInput } from './beforeInput';
import type { Finding, PresentFile } from './finding';

export function addonChecks(input: BeforeInput): Finding[] {
  const found: Finding[] = [];
  const shown = placeNamer(input);
  const present = new Set(input.files.map(({ target }) => nameKey(target)));
  for (const place of input.card.places) {
    if (place.mode !== 'own-folder') continue;
    const straight = new Map<string, PresentFile[]>();
    const folders = new Map<string, { file: PresentFile; rest: string }[]>();
    for (const one of within(input, place.into)) {
      const cut = one.rest.indexOf('/');
      if (cut < 0 || place.parts.some((part) => nameKey(part) === nameKey(one.rest.slice(0, cut))))
        straight.set(one.file.layer ?? '', [...(straight.get(one.file.layer ?? '') ?? []), one.file]);
      else folders.set(one.rest.slice(0, cut), [...(folders.get(one.rest.slice(0, cut)) ?? []), one]);
    }
    for (const [layer, files] of straight) {
      const name = input.nameOf(layer);
      const into = at(place.into, slugOf(name));
      found.push({
        id: `straight-in:${layer}`,
        level: 'wrong',
        layer,
        about: files[0]?.target ?? place.into,
        title: `“${name}” lies straight in ${shown(place.into)}`,
        evidence: `${oneOr(files.length, 'One file', `${files.length} files`)}: ${list(files.map(({ target }) => shown(target)))}.`,
        cause: place.why,
        fixes: move(
          `Give it a folder of its own`,
          files.map(({ target }) => ({ from: target, to: at(into, target.slice(place.into.length + 1)) })),
        ),
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
          id: `too-deep:${folder}`,
          level: 'wrong',
          layer,
          about: inner,
          title: `“${folder}” lies ${oneOr(inner.split('/').length - at(place.into, folder).split('/').length, 'one level', 'some levels')} too deep`,
          evidence: `The game looks for ${shown(at(place.into, folder, marker))}; it is ${shown(deeper.file.target)}.`,
          cause: place.why,
          fixes: move(
            'Move it up',
            up.map(({ file }) => ({
              from: file.target,
              to: at(place.into, folder, file.target.slice(inner.length + 1)),
            })),
          ),
        });
      } else
        found.push({
          id: `no-manifest:${folder}`,
          level: 'wrong',
          layer,
          about: at(place.into, folder, marker),
          title: `“${folder}” has no ${marker}`,
          evidence: `${oneOr(files.length, 'One file lies', `${files.length} files lie`)} in ${shown(at(place.into, folder))}, and no ${marker} beside them.`,
          cause: `Without ${marker} the game does not take the folder for an add-on.`,
          fixes: [
            {
              kind: 'add file',
              label: `Write a ${marker}`,
              to: at(place.into, folder, marker),
              text: `name = ${input.nameOf(layer)}\r\nversion = 1.0\r\n`,
            },
          ],
        });
    }
  }
  return found;
}
