import picomatch from 'picomatch';
import type { GameCard } from '../games/card';
import { baseName, extensionOf, isUnder, nameKey, type TargetPath } from '../paths/paths';
import { addonChecks } from './addonChecks';
import type { BeforeInput } from './beforeInput';
import { manifestChecks, textChecks, zippedChecks } from './fileChecks';
import { keyOf, type Finding, type PresentFile } from './finding';
import { findingOf } from './findingOf';
import type { Trouble } from './trouble';
import { namesIn } from './wordsFor';
import { referenceChecks } from './referenceChecks';
import { settingsChecks } from './settingsChecks';
import { titleChecks } from './titleChecks';

/** What is looked at before the game starts, each check by itself. */
export const CHECKS_BEFORE: ((input: BeforeInput) => Trouble[])[] = [
  addonChecks,
  titleChecks,
  zippedChecks,
  manifestChecks,
  textChecks,
  settingsChecks,
  referenceChecks,
];

/** Everything that will not work, as far as that can be known before the game starts. */
export function checkBefore(input: BeforeInput): Finding[] {
  const names = namesIn(input.card, input.nameOf);
  return CHECKS_BEFORE.flatMap((check) => check(input)).map((trouble) => findingOf(trouble, names));
}

/** Which files' texts are needed for the checks. */
export function textsForChecks(card: GameCard, files: readonly PresentFile[]): TargetPath[] {
  const manifests = new Set(card.manifests.map(({ file }) => nameKey(file)));
  const refers = card.references.map(({ files: globs }) => picomatch(globs, { nocase: true }));
  const isText = (key: string) =>
    card.texts.some(({ into, ending }) => isUnder(key, nameKey(into)) && key.endsWith(ending));
  const onlyOfPacks = card.texts.length === 0 && refers.length === 0;
  return files
    .flatMap((file) => {
      const { target, layer } = file;
      if (onlyOfPacks && layer === undefined) return [];
      const key = keyOf(file);
      if (['png', 'dds', 'wav', 'zip'].includes(extensionOf(target))) return [];
      return (layer !== undefined && manifests.has(nameKey(baseName(target)))) ||
        isText(key) ||
        refers.some((fits) => fits(target))
        ? [target]
        : [];
    })
    .slice(0, 2000);
}
