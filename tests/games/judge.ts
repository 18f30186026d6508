import {
  openSettings,
  placeEdits,
  placeFiles,
  proposeAt,
  proposePlacements,
  proposeSettings,
  readMeRank,
  settingsTargets,
  studyGame,
  textsWanted,
  wholeTarget,
  type PackEntry,
  type PackPath,
  type Placement,
  type PlacementInput,
  type SettingProposal,
  type SettingsDocument,
  type Statement,
  type TargetPath,
  type GameCard,
} from '@/core';
import type { Files, GameCase, PackCase, Targets, WantedSetting } from './case';

/**
 * right: nothing is left to answer, and every file is where it is expected. asked well: at most three answers lead
 * there; where the choice is the player's, answers lead to each of the outcomes. asked badly: they do not. wrong: not
 * asked, and not right.
 */
export type Verdict = 'right' | 'asked well' | 'asked badly' | 'wrong';

/** A game as the app gets to know it. */
export interface StudiedGame {
  card: GameCard;
  statements: Statement[];
  files: string[];
  folders: Set<string>;
  inside: Map<string, readonly string[]>;
  documents: { target: TargetPath; document: SettingsDocument }[];
}

const sizeOf = (what: Files[string]): number =>
  typeof what === 'number' ? what : typeof what === 'string' ? what.length : 5000;

export async function study({ roots }: GameCase): Promise<StudiedGame> {
  const { card, statements } = await studyGame(
    roots.map(({ id, title, files }) => ({
      id,
      title,
      files: Object.entries(files).map(([path, what]) => ({ path, size: sizeOf(what) })),
      read: async (path: string) => (typeof files[path] === 'string' ? files[path] : undefined),
    })),
  );
  const all = roots.flatMap(({ id, files }) =>
    Object.entries(files).map(([path, what]) => [`${id}/${path}`, what] as const),
  );
  const folders = new Set<string>();
  for (const [file] of all)
    for (let cut = file.indexOf('/'); cut > 0; cut = file.indexOf('/', cut + 1))
      folders.add(file.slice(0, cut).toLowerCase());
  const texts = new Map<string, Files[string]>(all);
  const files = all.map(([file]) => file);
  return {
    card,
    statements,
    files,
    folders,
    inside: new Map(all.flatMap(([file, what]) => (typeof what === 'object' ? [[file, what.zip] as const] : []))),
    documents: settingsTargets(card, files).flatMap(({ target, dialect }) =>
      typeof texts.get(target) === 'string'
        ? [{ target, document: openSettings(texts.get(target) as string, dialect) }]
        : [],
    ),
  };
}

/** What the app is given of a pack. */
export function inputOf(
  { card, statements, files, inside }: StudiedGame,
  { name, files: pack }: PackCase,
): PlacementInput & { entries: PackEntry[] } {
  const entries = Object.entries(pack).map(
    ([path, what]): PackEntry =>
      ({
        path: path.replaceAll('\\', '/') as PackPath,
        size: sizeOf(what),
        crc32: undefined,
        modified: undefined,
      }) as unknown as PackEntry,
  );
  const said = (path: string) => (typeof pack[path] === 'string' ? pack[path] : '');
  const best = entries
    .map(({ path }) => ({ path, rank: readMeRank(path) }))
    .filter(({ rank }) => rank > 0)
    .sort((a, b) => b.rank - a.rank || (a.path < b.path ? -1 : 1))[0];
  return {
    entries,
    card,
    statements,
    gameFiles: files,
    inside,
    name,
    texts: new Map(textsWanted(entries, card).map((path) => [path, said(path)])),
    ...(best ? { readMe: { path: best.path, text: said(best.path) } } : {}),
  };
}

/** A read-me or a licence goes along or stays out; nobody minds. */
const TALK =
  /(^|\/)_*(read ?[-_]?me|liesmich|leeme|lisez|install|instruc|anleitung|licen[cs]e|credits|how ?to|info|note|about the pack|read)[^/]*\.(txt|md)$/i;

export function outcomeOf(entries: readonly PackEntry[], placement: Placement): Map<string, string> {
  const whole = wholeTarget(placement);
  if (whole) return new Map([['', whole]]);
  const made = new Map(
    placeFiles(entries, placement).map(({ path, target, inside }) => [
      path as string,
      inside === undefined ? (target as string) : `${target}!/${inside}`,
    ]),
  );
  for (const rule of placement.rules)
    if (rule.as === 'edits' && rule.edits.length > 0) made.set(rule.from, `edits ${rule.to}`);
  return made;
}

/** Files that are not where they are wanted. */
export function misplaced(
  { folders }: StudiedGame,
  entries: readonly PackEntry[],
  made: ReadonlyMap<string, string>,
  wanted: Targets,
): string[] {
  const wrong: string[] = [];
  const containers = new Set<string>();
  const fits = (want: string, got: string) => {
    const [before = '', after] = want.toLowerCase().split('*');
    const low = got.toLowerCase();
    if (after === undefined) return low === before;
    if (!low.startsWith(before) || !low.endsWith(after)) return false;
    const name = low.slice(before.length, low.length - after.length);
    if (name === '' || name.includes('/') || folders.has(before + name)) return false;
    containers.add(name);
    return containers.size === 1;
  };
  const kept = wanted[''];
  const whole = made.get('');
  if (typeof kept === 'string')
    return whole !== undefined && fits(kept, whole) ? [] : [`kept whole: ${whole ?? 'unpacked'}`];
  if (whole !== undefined) return [`kept whole as ${whole}`];
  const keys = Object.keys(wanted).sort((a, b) => b.length - a.length);
  for (const { path } of entries) {
    const got = made.get(path);
    const key = keys.find((one) => one === '**' || (one.endsWith('/') ? path.startsWith(one) : path === one));
    if (TALK.test(path) && (key === undefined || key === '**' || (key !== path && got === undefined))) continue;
    const want = key === undefined ? null : (wanted[key] ?? null);
    if (want === '?') continue;
    const tail = key === '**' ? path : key?.endsWith('/') ? path.slice(key.length) : '';
    if (
      want === null
        ? got !== undefined
        : got === undefined || !(Array.isArray(want) ? want : [want]).some((one) => fits(one + tail, got))
    )
      wrong.push(`${path} → ${got ?? 'left out'}`);
  }
  return wrong;
}

/** Do at most three answers lead to what is wanted? */
function reaches(input: PlacementInput, isWanted: (placement: Placement) => boolean): boolean {
  let states: Record<string, string[]>[] = [{}];
  for (let click = 0; click <= 3; click++) {
    const next: Record<string, string[]>[] = [];
    for (const answers of states) {
      const { confidence, placement, questions, choices } = proposePlacements({ ...input, answers });
      if (isWanted(placement)) return click < 3 || confidence !== 'ask';
      if (click === 3) continue;
      if (
        confidence === 'ask' &&
        choices.some(({ strip, base }) => isWanted(proposeAt({ ...input, answers }, strip, base)))
      )
        return true;
      if (next.length < 300)
        for (const { id, kind, options } of questions) {
          if (id in answers) continue;
          for (const option of options) next.push({ ...answers, [id]: [option.id] });
          if (kind === 'any')
            next.push({ ...answers, [id]: [] }, { ...answers, [id]: options.map((option) => option.id) });
        }
    }
    states = next;
  }
  return false;
}

/** How a pack comes out, and what is wrong. */
export function judge(game: StudiedGame, pack: PackCase): { verdict: Verdict; note: string; overNeighbour: boolean } {
  const input = inputOf(game, pack);
  const { entries } = input;
  const { confidence, placement, questions } = proposePlacements(input);
  const wrongAt = (wanted: Targets) => (placed: Placement) =>
    misplaced(game, entries, outcomeOf(entries, placed), wanted);
  const { targets = {}, outcomes } = pack.expect;
  const asks = confidence === 'ask';
  const all = outcomes ?? [targets];
  const holds = all.some((wanted) => wrongAt(wanted)(placement).length === 0);
  const note = `${confidence}; ${all.map((wanted) => wrongAt(wanted)(placement).slice(0, 3).join(', ')).join(' / ')}`;
  // A suggestion that lies over a file of the game where nothing of it is expected.
  const expected = new Set(
    all.flatMap((wanted) =>
      [...outcomeOf(entries, placement)]
        .filter(
          ([path]) =>
            misplaced(
              game,
              entries.filter((entry) => entry.path === path),
              new Map([[path, outcomeOf(entries, placement).get(path) ?? '']]),
              wanted,
            ).length === 0,
        )
        .map(([path]) => path),
    ),
  );
  const own = new Set(game.files.map((file) => file.toLowerCase()));
  const overNeighbour =
    !asks &&
    [...outcomeOf(entries, placement)].some(([path, target]) => own.has(target.toLowerCase()) && !expected.has(path));
  if (!outcomes || outcomes.length === 1) {
    if (!asks) return { verdict: holds ? 'right' : 'wrong', note, overNeighbour };
    return {
      verdict: reaches(input, (placed) => wrongAt(all[0] as Targets)(placed).length === 0)
        ? 'asked well'
        : 'asked badly',
      note,
      overNeighbour,
    };
  }
  const reached =
    (asks || questions.length > 0) &&
    outcomes.every((wanted) => reaches(input, (placed) => wrongAt(wanted)(placed).length === 0));
  return { verdict: reached && (asks || holds) ? 'asked well' : asks ? 'asked badly' : 'wrong', note, overNeighbour };
}

const plain = (value: string): string =>
  value
    .replace(/^"(.*)"$/, '$1')
    .trim()
    .toLowerCase();
const namesOf = (path: readonly string[]): string =>
  (path.length > 1 && /^set\w?$/i.test(path[0] ?? '') ? path.slice(1) : path).join('\n').toLowerCase();

function isWanted(want: WantedSetting, got: SettingProposal): boolean {
  if (got.kind === 'launch option') return want.file === '(launch)' && plain(got.option) === plain(want.value);
  if (got.file.toLowerCase() !== want.file.toLowerCase()) return false;
  if (got.kind === 'key') return namesOf(got.path) === namesOf(want.path) && plain(got.value) === plain(want.value);
  return got.keys.some(
    ({ key, value }) => namesOf([key]) === namesOf(want.path.slice(1)) && plain(value) === plain(want.value),
  );
}

/** Settings that are found, missed, and offered although nobody asked. */
export function settingsOf(game: StudiedGame, pack: PackCase): { found: number; missed: string[]; invented: string[] } {
  const input = inputOf(game, pack);
  const { placement } = proposePlacements(input);
  const own = placeEdits(placement).flatMap(({ file, edits }) =>
    edits.map((edit): SettingProposal => ({ kind: 'key', file, path: edit.path, value: edit.value ?? '', line: 0 })),
  );
  const read = proposeSettings({
    card: game.card,
    statements: game.statements,
    documents: game.documents,
    entries: input.entries,
    placement,
    ...(input.readMe ? { readMe: input.readMe } : {}),
  });
  const wanted = pack.expect.settings ?? [];
  const offered = [...own, ...read];
  const missed = wanted.filter((want) => !offered.some((got) => isWanted(want, got)));
  return {
    found: wanted.length - missed.length,
    missed: missed.map(({ file, path, value }) => `${file} ${path.join(' › ')} = ${value}`),
    invented: read.filter((got) => !wanted.some((want) => isWanted(want, got))).map((got) => JSON.stringify(got)),
  };
}

/** The figures for some games. */
export async function figuresOf(games: Iterable<GameCase>): Promise<{
  packs: number;
  verdicts: Record<Verdict, number>;
  wanted: number;
  found: number;
  invented: number;
  overNeighbours: string[];
  notes: string[];
}> {
  const made = {
    packs: 0,
    verdicts: { right: 0, 'asked well': 0, 'asked badly': 0, wrong: 0 },
    wanted: 0,
    found: 0,
    invented: 0,
    overNeighbours: [] as string[],
    notes: [] as string[],
  };
  for (const one of games) {
    const game = await study(one);
    for (const pack of one.packs) {
      const { verdict, note, overNeighbour } = judge(game, pack);
      const { found, missed, invented } = settingsOf(game, pack);
      made.packs++;
      made.verdicts[verdict]++;
      made.wanted += pack.expect.settings?.length ?? 0;
      made.found += found;
      made.invented += invented.length;
      const name = `${one.name} / ${pack.name} (${pack.expect.mechanism})`;
      if (overNeighbour) made.overNeighbours.push(name);
      if (verdict === 'wrong' || verdict === 'asked badly') made.notes.push(`${verdict}: ${name}: ${note}`);
      for (const text of [
        ...missed.map((miss) => `not found: ${miss}`),
        ...invented.map((extra) => `nobody asked: ${extra}`),
      ])
        made.notes.push(`${name}: ${text}`);
    }
  }
  return made;
}
