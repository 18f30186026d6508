import {
  foldersIn,
  nameKey,
  nextNumber,
  numberedSections,
  wrongFolder,
  type NumberedSection,
  type SettingsFile,
  type TargetPath,
} from '@/core';
import type { NumberedView } from '../contract';
import { futureGame } from '../game/futureFiles';
import type { Session } from '../game/session';
import { futureDocument } from '../game/playerEdits';

export const futureTargets = (session: Session): TargetPath[] => futureGame(session).map(({ target }) => target);

export const namedFolders = (session: Session, folder: string): string[] =>
  [...foldersIn(futureGame(session), folder)].sort();

export function numberedView(session: Session, file: SettingsFile): NumberedView | undefined {
  const { numbered } = file;
  if (!numbered) return undefined;
  const sections = numberedSections(futureDocument(session, file.target), numbered.section);
  const folders = numbered.inside === undefined ? [] : namedFolders(session, numbered.inside);
  const { folder: folderKey, inside } = numbered;
  const there = new Set(folders);
  const trouble = (section: NumberedSection): string | undefined => {
    const wrong = folderKey === undefined || inside === undefined ? undefined : wrongFolder(section, folderKey, there);
    if (!wrong) return undefined;
    if (wrong.value === undefined) return `It has no “${wrong.key}”.`;
    return wrong.near === undefined
      ? `There is no folder “${wrong.value}”.`
      : `There is no folder “${wrong.value}”, but “${wrong.near}”; the game wants it letter for letter.`;
  };
  const used = new Set(
    sections.flatMap(({ keys }) =>
      keys.filter(({ key }) => nameKey(key) === nameKey(folderKey ?? '')).map(({ value }) => value),
    ),
  );
  return {
    section: numbered.section,
    next: nextNumber(sections, numbered.first),
    gaps: sections.some(({ number }, i) => number !== numbered.first + i),
    folderKey,
    inside,
    free: folders.filter((name) => !used.has(name)),
    sections: sections.map((one) => ({ ...one, trouble: trouble(one) })),
  };
}
