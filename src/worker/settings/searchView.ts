import { findInSearch, searchContainers, searchEntries, splitTarget, type SettingsFile } from '@/core';
import type { SearchView } from '../contract';
import type { Session } from '../game/session';
import { futureDocument } from '../game/playerEdits';
import { futureTargets } from './numberedView';

const inRoot = (session: Session, root: string): string[] =>
  futureTargets(session).flatMap((file) => (splitTarget(file).root === root ? [splitTarget(file).path] : []));

export function searchView(session: Session, file: SettingsFile): SearchView | undefined {
  const { search } = file;
  if (!search) return undefined;
  const entries = searchEntries(futureDocument(session, file.target), search);
  const containers = searchContainers(entries, inRoot(session, search.from));
  return {
    each: search.each,
    entries: entries.map((entry) => ({
      folder: entry.folder,
      each: entry.each,
      containers: containers.filter((one) => one.entry === entry).map(({ folder, files }) => ({ folder, files })),
    })),
  };
}

/** Every container that has a file, the one that wins first. */
export function searchFor(session: Session, file: SettingsFile, name: string): { folder: string; file: string }[] {
  if (!file.search || name.trim() === '') return [];
  const files = inRoot(session, file.search.from);
  return findInSearch(
    searchContainers(searchEntries(futureDocument(session, file.target), file.search), files),
    files,
    name.trim().replaceAll('\\', '/'),
  ).slice(0, 50);
}
