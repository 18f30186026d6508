import {
  adviseOnPreload, editFates, findInSearch, foldersIn, isUnder, launchOptions, listItems, nameKey, nextNumber, numberedSections, searchContainers, searchEntries, splitTarget, wrongFolder,
  type NumberedSection, type SettingsFile, type TargetPath,
} from '@/core';
import type { LaunchView, ListNeed, MemoryView, NumberedView, PackAsk, PackView, SearchView, SettingsMore } from './api';
import { askedBy } from './asked';
import { futureGame } from './games';
import { dropKey, type Session } from './session';
import { futureDocument } from './settingsCommands';

const futureTargets = (session: Session): TargetPath[] => futureGame(session).map(({ target }) => target);
export const namedFolders = (session: Session, folder: string): string[] => [...foldersIn(futureGame(session), folder)].sort();

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
    return wrong.near === undefined ? `There is no folder “${wrong.value}”.` : `There is no folder “${wrong.value}”, but “${wrong.near}”; the game wants it letter for letter.`;
  };
  const used = new Set(sections.flatMap(({ keys }) => keys.filter(({ key }) => nameKey(key) === nameKey(folderKey ?? '')).map(({ value }) => value)));
  return {
    section: numbered.section, next: nextNumber(sections, numbered.first), gaps: sections.some(({ number }, i) => number !== numbered.first + i), folderKey, inside,
    free: folders.filter((name) => !used.has(name)), sections: sections.map((one) => ({ ...one, trouble: trouble(one) })),
  };
}

const inRoot = (session: Session, root: string): string[] => futureTargets(session).flatMap((file) => (splitTarget(file).root === root ? [splitTarget(file).path] : []));

export function searchView(session: Session, file: SettingsFile): SearchView | undefined {
  const { search } = file;
  if (!search) return undefined;
  const entries = searchEntries(futureDocument(session, file.target), search);
  const containers = searchContainers(entries, inRoot(session, search.from));
  return { each: search.each, entries: entries.map((entry) => ({ folder: entry.folder, each: entry.each, containers: containers.filter((one) => one.entry === entry).map(({ folder, files }) => ({ folder, files })) })) };
}

/** Every container that has a file, the one that wins first. */
export function searchFor(session: Session, file: SettingsFile, name: string): { folder: string; file: string }[] {
  if (!file.search || name.trim() === '') return [];
  const files = inRoot(session, file.search.from);
  return findInSearch(searchContainers(searchEntries(futureDocument(session, file.target), file.search), files), files, name.trim().replaceAll('\\', '/')).slice(0, 50);
}

/** The launch line; of a game whose card has none, as soon as a pack asks for an option: the player copies it. */
function launchView(session: Session, asked: boolean): LaunchView | undefined {
  const launch = session.game.card.launch ?? (asked || session.stack.launchLine !== undefined ? { options: [] } : undefined);
  if (!launch) return undefined;
  const { file, path } = { file: undefined, path: undefined, ...launch } as { file: TargetPath | undefined; path: string[] | undefined };
  const inFile = file !== undefined && path ? futureDocument(session, file).get(path) : undefined;
  const line = inFile ?? session.stack.launchLine ?? '';
  const files = new Set(futureTargets(session).map(nameKey));
  const card = new Map(launch.options.map((one) => [nameKey(one.option), one]));
  return {
    line, file, pending: file !== undefined && path !== undefined && session.picture.settings.get(file)?.get(path) !== inFile,
    known: launch.options.map(({ option, meaning, names }) => ({ option, meaning, takes: names !== undefined })),
    options: launchOptions(line).map(({ name, values }) => {
      const known = card.get(nameKey(name));
      const value = values.join(' ');
      const trouble = known?.names === undefined ? undefined : value === '' ? 'It names no file.' : files.has(nameKey(`${known.names}/${value}`)) ? undefined : `There is no file “${value}” in ${known.names}.`;
      return { name, values, meaning: known?.meaning, trouble };
    }),
  };
}

/** What read-mes ask for beyond single keys, as long as it is not so. */
async function packAsks(session: Session, launch: LaunchView | undefined): Promise<PackAsk[]> {
  const asks: PackAsk[] = [];
  for (const layer of session.packLayers()) {
    if (!layer.on) continue;
    const by = { layer: layer.id, pack: layer.name };
    for (const one of (await askedBy(session, layer)).asked) {
      if (one.kind === 'launch option') {
        const [option = '', ...rest] = one.option.split(/[\s=]/);
        if (!launch?.options.some((has) => nameKey(has.name) === nameKey(option))) asks.push({ kind: 'option', option, value: rest.join(' '), ...by, line: one.line });
      }
      if (one.kind !== 'numbered section') continue;
      const file = session.picture.settingsFiles.find(({ target, numbered }) => target === one.file && numbered);
      if (!file) continue;
      const there = numberedSections(futureDocument(session, one.file), one.section).some(({ keys }) => one.keys.every(({ key, value }) => keys.some((has) => nameKey(has.key) === nameKey(key) && has.value === value)));
      if (!there) asks.push({ kind: 'number', file: one.file, section: one.section, keys: one.keys, ...by, line: one.line });
    }
  }
  return asks;
}

/** Folders that packs bring and that a list has to name, or the game passes over them. */
function listNeeds(session: Session): ListNeed[] {
  const needs: ListNeed[] = [];
  for (const file of session.picture.settingsFiles)
    for (const key of file.keys) {
      if (key.list === undefined || key.names === undefined) continue;
      const listed = new Set(listItems(futureDocument(session, file.target).get(key.path) ?? key.default ?? '', key.list).map(nameKey));
      const brought = new Map<string, { item: string; layer: string }>();
      for (const [id, { target, providers }] of session.picture.resolution.owned) {
        const top = providers.at(-1);
        const [item, more] = isUnder(id, nameKey(key.names)) ? target.slice(key.names.length + 1).split('/') : [];
        if (top && item !== undefined && more !== undefined && !listed.has(nameKey(item)) && !brought.has(nameKey(item))) brought.set(nameKey(item), { item, layer: top.layer });
      }
      for (const { item, layer } of brought.values()) needs.push({ file: file.target, path: [...key.path], item, pack: session.nameOf(layer), tag: session.packLayers().find(({ id }) => id === layer)?.tag });
    }
  return needs;
}

function memoryView(session: Session, packs: readonly PackView[]): MemoryView {
  const shown = packs.filter(({ on, textures }) => on && textures.bytesInMemory > 0).map(({ layer, name, tag, textures }) => ({ layer, name, tag, bytes: textures.bytesInMemory, files: textures.files }));
  const total = shown.reduce((sum, { bytes }) => sum + bytes, 0);
  const machine = session.stack.machineMemory;
  const advice = session.picture.settingsFiles.flatMap((file) =>
    file.keys.filter(({ costs }) => costs === 'texture memory').flatMap((key) => {
      const found = adviseOnPreload(total, machine);
      return found ? [{ file: file.target, path: [...key.path], now: futureDocument(session, file.target).get(key.path) ?? key.default, ...found, meaning: key.meaning }] : [];
    }),
  );
  return { packs: shown, total, machine, advice };
}

/** Edits as one list, to be compared. */
const flat = (files: readonly { file: string; edits: readonly { path: string[]; value?: string | undefined }[] }[]): Map<string, string> => new Map(files.flatMap(({ file, edits }) => edits.map(({ path, value }) => [`${file}: ${path.join(' › ')}`, value ?? 'removed'] as const)));

function setViews(session: Session): SettingsMore['sets'] {
  const mine = flat(session.stack.layers.filter((layer) => layer.kind === 'edits'));
  return session.stack.sets.map(({ id, name, at, files }) => {
    const then = flat(files);
    const differences = [...new Set([...mine.keys(), ...then.keys()])].filter((key) => mine.get(key) !== then.get(key)).sort().map((key) => `${key}: ${mine.get(key) ?? 'not edited'} now, ${then.get(key) ?? 'not edited'} in the set`);
    return { id, name, at, edits: then.size, current: differences.length === 0, differences: differences.slice(0, 50) };
  });
}

/** What the settings page shows beyond files and keys. */
export async function settingsMore(session: Session, packs: readonly PackView[]): Promise<SettingsMore> {
  const fates = editFates(session.picture.state, session.picture.settings);
  const { ownFiles } = session.game.card;
  const wanted = await Promise.all(session.packLayers().filter(({ on }) => on).map((layer) => askedBy(session, layer)));
  const launch = launchView(session, wanted.some(({ asked }) => asked.some(({ kind }) => kind === 'launch option')));
  return {
    launch, asks: await packAsks(session, launch), needs: listNeeds(session), sets: setViews(session), memory: memoryView(session, packs),
    lost: fates.filter(({ fate }) => fate !== 'stayed').map((one) => ({ ...one, by: one.layer.startsWith('edits:') ? 'you' : session.nameOf(one.layer), times: (session.stack.drops[dropKey(one.file, one.path)] ?? 0) + 1 })),
    sorted: session.picture.sorted,
    stayed: fates.filter(({ fate }) => fate === 'stayed').length,
    ownFiles: ownFiles && { ending: ownFiles.ending, why: ownFiles.why },
  };
}
