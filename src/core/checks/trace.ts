import type { GameCard, LogRule } from '../games/card';
import { baseName, extensionOf, isUnder, joinPath, nameKey, parentOf, type TargetPath } from '../paths/paths';
import { openSettings } from '../settings/openSettings';
import { NEAR_SAYS } from './before';
import { hidingCures, type Finding, type Fix, type PresentFile } from './finding';
import { NearestFiles } from './nearest';
import type { LogMessage } from './logMessage';

export interface TraceInput {
  card: GameCard;
  rules: readonly LogRule[];
  /** The game as it is now. */
  files: readonly PresentFile[];
  /** Files that packs in the stack have and that did not get into the game. */
  leftOut: readonly { layer: string; path: string }[];
  /** The game's own text files that a pack's file replaces, by `nameKey`. */
  originals: ReadonlyMap<string, string>;
  nameOf(layer: string): string;
}

/** Says that a file is there and is no good. */
const CANNOT_READ = /\b(?:cannot|can['’]t|could not|couldn['’]t|unable to|failed to) (?:be )?(?:read|parse|decode)\b|\b(?:corrupt(?:ed)?|unreadable|damaged|malformed|invalid|bad (?:format|header|data))\b/i;

/** Messages of one kind that are traced one by one; further ones are folded into one finding. */
const MOST_SINGLE = 25;

/** The end of a path, as far as it tells files apart. */
const short = (path: string): string => `“${path.split('/').slice(-2).join('/')}”`;
const times = ({ count }: LogMessage): string => (count === 1 ? '' : `, ${count.toLocaleString('en')} times`);

/** Leads messages of a log back to the file or key that they name, and to the layer that provides, hides or lacks it. */
export function traceMessages(messages: readonly LogMessage[], input: TraceInput): Finding[] {
  const byRule = new Map(input.rules.map((rule) => [rule.id, rule]));
  const troubles = messages.filter(({ level }) => level === 'warning' || level === 'error');
  const nearest = new NearestFiles(input.files.map(({ target }) => target));
  const layerOf = new Map(input.files.map(({ target, layer }) => [nameKey(target), layer]));
  const spelled = new Map(input.files.map(({ target }) => [nameKey(target), target]));
  const leftOut = input.leftOut.map((one) => ({ ...one, key: nameKey(one.path), name: nameKey(baseName(one.path)) }));
  // Found out when they are first asked for: most logs are clean.
  let owners: Map<string, string> | undefined;
  let ownByExtension: Map<string, PresentFile[]> | undefined;
  let folders: Map<string, string> | undefined;
  let byName: Map<string, string[]> | undefined;
  let homes: Map<string, string> | undefined;
  const found: Finding[] = [];
  const keys: { message: LogMessage; key: string }[] = [];
  const singles = new Map<string, number>();
  for (const message of troubles) {
    const about = message.about ?? byRule.get(message.rule)?.about;
    const value = about && message.fields[about.field];
    if (value !== undefined && about?.kind === 'key') keys.push({ message, key: value });
    else if (value !== undefined && about) {
      const seen = (singles.get(message.rule) ?? 0) + 1;
      singles.set(message.rule, seen);
      if (seen <= MOST_SINGLE) found.push(traceFile(message, value, about.under));
      else if (message.rule === 'plain') found.push(spoken(message));
    } else if (message.rule === 'plain') found.push(spoken(message));
    else found.push({ id: `log:${message.rule}:${message.says}`, level: 'wrong', title: message.says, evidence: `Line ${message.first} of the log${times(message)}.`, cause: 'The game said so itself.', fixes: [] });
  }
  return [...found, ...traceKeys()];

  function traceFile(message: LogMessage, value: string, under: string | undefined): Finding {
    const path = value.replaceAll('\\', '/').replace(/^\.?\/+/, '');
    const wanted = (under === undefined ? whereNamed(path) : joinPath(under, path)) as TargetPath;
    const layer = layerOf.get(nameKey(wanted));
    const evidence = `Line ${message.first} of the log${times(message)}: ${message.text.trim().slice(0, 200)}`;
    const base = { id: message.rule === 'plain' ? `log:plain:${message.says}` : `log:${message.rule}:${nameKey(wanted)}`, level: 'wrong' as const, title: message.says, evidence };
    const there = spelled.get(nameKey(wanted));
    // It is there under other capitals, and the game says that it is not.
    if (there !== undefined && layer !== undefined && there !== wanted)
      return { ...base, about: there, layer, cause: `There is ${there}: ${NEAR_SAYS.case}.`, fixes: [{ kind: 'move', label: `Rename it to ${baseName(wanted)}`, moves: [{ from: there, to: wanted }] }, { kind: 'take out', label: `Take “${input.nameOf(layer)}” out`, layer }] };
    if (there !== undefined && layer !== undefined)
      return {
        ...base, about: there, layer, cause: `“${input.nameOf(layer)}” brings this file.`,
        fixes: [{ kind: 'leave out', label: 'Leave this file out, so that the default shows', target: there }, { kind: 'take out', label: `Take “${input.nameOf(layer)}” out`, layer }],
      };
    if (there !== undefined) return { ...base, about: there, cause: 'It is the game’s own file. Let the game’s own program check its files.', fixes: [] };

    const owner = ownerOf(wanted);
    // What the same pack has lies nearer than what another one needs for itself.
    const near = nearest.find(wanted, 8).sort((a, b) => Number(layerOf.get(nameKey(b.path)) === owner) - Number(layerOf.get(nameKey(a.path)) === owner));
    const first = near[0];
    const fixes: Fix[] = [];
    const [wantedKey, wantedName] = [nameKey(wanted), nameKey(baseName(wanted))];
    const missing = leftOut.find(({ key, name }) => name === wantedName || wantedKey.endsWith(`/${key}`));
    const brings = first && layerOf.get(nameKey(first.path));
    // Exactly this name is in one pack alone: the line says where it belongs.
    const sameName = near.filter(({ path }) => nameKey(baseName(path)) === wantedName);
    const meant = first && sameName.length === 1 && sameName[0] === first && brings !== undefined;
    if (first && brings !== undefined && (brings === owner || first.kind !== 'folder' || meant)) fixes.push({ kind: 'move', label: `Put ${short(first.path)} there`, moves: [{ from: first.path as TargetPath, to: wanted }] });
    if (missing) fixes.push({ kind: 'take in', label: `Take it in from “${input.nameOf(missing.layer)}”`, layer: missing.layer, path: missing.path });
    // A line that says a file cannot be read is not cured by a copy of another one.
    const standIn = CANNOT_READ.test(`${message.text} ${message.says}`) ? undefined : standInFor(wanted);
    if (standIn) fixes.push({ kind: 'stand-in', label: `Put a copy of ${short(standIn)} there`, copy: standIn, to: wanted });
    return {
      ...base, about: first?.path ?? wanted,
      cause: meant && first.kind === 'folder' ? `The game looks for it at ${wanted}; “${input.nameOf(brings)}” has it at ${first.path}. Move it there.` : first ? `There is ${first.path}: ${NEAR_SAYS[first.kind]}.` : missing ? `“${input.nameOf(missing.layer)}” has it, and it was left out.` : standIn ? 'Nobody provides it. A copy of another file can stand in for it.' : 'Nobody provides it: no pack, and not the game itself.', fixes,
    };
  }

  /** A message as it stands, with the pack whose name or folder it names. */
  function spoken(message: LogMessage): Finding {
    const base = { id: `log:plain:${message.says}`, level: 'wrong' as const, title: message.says, evidence: `Line ${message.first.toLocaleString('en')} of the log${times(message)}.` };
    folders ??= packFolders(input.files, input.nameOf);
    const low = nameKey([message.text, ...message.trace].join(' ')).replace(/[^\p{L}\p{N}]+/gu, ' ');
    const named = new Set([...folders].flatMap(([name, layer]) => (` ${low} `.includes(` ${name} `) ? [layer] : [])));
    const [layer] = named;
    if (layer === undefined || named.size > 1) return { ...base, cause: 'The game said so itself.', fixes: [] };
    return { ...base, layer, cause: `The line names something of “${input.nameOf(layer)}”.`, fixes: [{ kind: 'take out', label: `Take “${input.nameOf(layer)}” out`, layer }] };
  }

  /** The pack that has the most to do with a place: the one whose files lie nearest around it. */
  function ownerOf(wanted: TargetPath): string | undefined {
    owners ??= folderOwners(input.files);
    for (let folder = nameKey(parentOf(wanted)); folder.includes('/'); folder = parentOf(folder)) {
      const layer = owners.get(folder);
      if (layer !== undefined) return layer;
    }
    return undefined;
  }

  /** A path as a log writes it, without knowing the folder: the file of the game whose path ends in it. */
  function whereNamed(path: string): string {
    const names = path.split('/');
    const root = input.card.roots[0]?.id ?? 'game';
    byName ??= groupByName(input.files);
    const same = byName.get(nameKey(baseName(path))) ?? [];
    // A whole path of the computer ends in one of the game.
    for (let from = 0; from < names.length; from++) {
      const key = nameKey(names.slice(from).join('/'));
      const found = same.find((one) => nameKey(one) === key || nameKey(one).endsWith(`/${key}`));
      if (found !== undefined && (from === 0 || from < names.length - 1)) return found;
    }
    // What is missing lies in a folder that is there.
    homes ??= new Map(input.files.map(({ target }) => [nameKey(parentOf(target)), parentOf(target)]));
    for (let from = 0; from < names.length - 1; from++)
      for (const { id } of input.card.roots) {
        const home = homes.get(nameKey(joinPath(id, names.slice(from, -1).join('/'))));
        if (home !== undefined) return joinPath(home, baseName(path));
      }
    return joinPath(root, /^[a-z]:$/i.test(names[0] as string) ? baseName(path) : path);
  }

  /** One of the game's own files of the same name in another folder, else of the same kind. */
  function standInFor(wanted: TargetPath): TargetPath | undefined {
    ownByExtension ??= groupByExtension(input.files);
    const own = ownByExtension.get(extensionOf(wanted)) ?? [];
    const same = own.find(({ target }) => nameKey(baseName(target)) === nameKey(baseName(wanted)));
    return (same ?? own.find(({ target }) => nameKey(parentOf(target)) === nameKey(parentOf(wanted))))?.target;
  }

  /** A flood of missing keys has one cause: a file of that name which hides the game's own. */
  function traceKeys(): Finding[] {
    if (keys.length === 0) return [];
    const rest = new Set(keys.map(({ key }) => key));
    const floods: Finding[] = [];
    for (const place of input.card.texts)
      for (const [target, text] of input.originals) {
        if (!isUnder(target, nameKey(place.into)) || !target.endsWith(place.ending)) continue;
        const hidden = openSettings(text, place.dialect).entries().map(({ path }) => path.join(' › ')).filter((key) => rest.has(key));
        const layer = layerOf.get(target);
        if (hidden.length === 0 || layer === undefined) continue;
        hidden.forEach((key) => rest.delete(key));
        const name = input.nameOf(layer);
        const here = spelled.get(target) ?? (target as TargetPath);
        floods.push({
          id: `hides:${target}`, level: 'wrong', about: here, layer, title: `${hidden.length === 1 ? 'A text is' : `${hidden.length} texts are`} missing, all for one reason`,
          evidence: `The log misses ${hidden.slice(0, 3).map((key) => `“${key}”`).join(', ')}${hidden.length > 3 ? ` and ${hidden.length - 3} more` : ''}; the game’s own ${here} has them, and “${name}” replaces that file.`, cause: place.why,
          fixes: hidingCures(here, name),
        });
      }
    const single = keys.filter(({ key }) => rest.has(key)).slice(0, MOST_SINGLE).map(({ message, key }): Finding => ({ id: `log:${message.rule}:${key}`, level: 'wrong', about: key, title: message.says, evidence: `Line ${message.first} of the log${times(message)}.`, cause: 'No text file in the game has this key.', fixes: [] }));
    return [...floods, ...single];
  }
}

/** For every folder a pack that has files in it. */
function folderOwners(files: readonly PresentFile[]): Map<string, string> {
  const owners = new Map<string, string>();
  for (const { target, layer } of files) {
    if (layer === undefined) continue;
    for (let folder = nameKey(parentOf(target)); folder !== '' && !owners.has(folder); folder = parentOf(folder)) owners.set(folder, layer);
  }
  return owners;
}

/** The game's own files by the ends of their names. */
function groupByExtension(files: readonly PresentFile[]): Map<string, PresentFile[]> {
  const groups = new Map<string, PresentFile[]>();
  for (const file of files) {
    if (file.layer !== undefined) continue;
    const extension = extensionOf(file.target);
    const group = groups.get(extension);
    if (group) group.push(file);
    else groups.set(extension, [file]);
  }
  return groups;
}

/** Files by their names. */
function groupByName(files: readonly PresentFile[]): Map<string, string[]> {
  const groups = new Map<string, string[]>();
  for (const { target } of files) {
    const name = nameKey(baseName(target));
    const group = groups.get(name);
    if (group) group.push(target);
    else groups.set(name, [target]);
  }
  return groups;
}

/** Shorter names of folders and packs stand in lines by chance. */
const SHORTEST_NAME = 5;

/** Names by which a line can mean a pack, as words with blanks: what it is called, and folders that it alone brings. */
function packFolders(files: readonly PresentFile[], nameOf: (layer: string) => string): Map<string, string> {
  const words = (name: string) => nameKey(name).replace(/[^\p{L}\p{N}]+/gu, ' ').trim();
  const found = new Map<string, string>();
  const common = new Set<string>();
  const note = (name: string, layer: string | undefined) => {
    const known = found.get(name);
    if (layer === undefined || (known !== undefined && known !== layer)) common.add(name);
    else found.set(name, layer);
  };
  const folders = new Map<string, string | undefined>();
  for (const { target, layer } of files) for (let folder = parentOf(target); folder.includes('/'); folder = parentOf(folder)) {
    if (folders.has(folder) && folders.get(folder) === layer) break;
    folders.set(folder, folders.has(folder) ? undefined : layer);
  }
  for (const [folder, layer] of folders) note(words(baseName(folder)), layer);
  for (const layer of new Set(files.flatMap((file) => file.layer ?? []))) note(words(nameOf(layer)), layer);
  for (const name of found.keys()) if (common.has(name) || name.length < SHORTEST_NAME) found.delete(name);
  return found;
}
