import { describe, expect, it } from 'vitest';
import {
  decodeText,
  openPack,
  openSettings,
  packOfFiles,
  placeEdits,
  proposePlacements,
  proposeSettings,
  readMeRank,
  settingsTargets,
  studyGame,
  textsWanted,
  wholeTarget,
  type GameCard,
  type Pack,
  type PlacementInput,
  type SettingProposal,
  type SettingsDocument,
  type TargetPath,
} from '@/core';
import type { Files } from '@/demo/filesByPath';
import { DEMO_GAMES } from '@/demo/demoGames';
import { SHELF } from '@/demo/shelf';
import { outcomeOf } from './judge';

/** What no folder can tell; the app has to ask there. */
const UNKNOWABLE: Record<string, string> = {
  'north-isles.tar.gz': 'the game has no chart of this ending, and no folder for them yet',
  'evening-bell.wav': 'that the game looks for this one sound under another name',
  'attic-stairs.zip': 'how another edition’s layout becomes this one’s',
};

/**
 * A download that stopped half-way cannot be opened with a card either; the large one says nothing that the others do
 * not.
 */
const shelfOf = (game: string) =>
  SHELF.filter((item) => item.game === game && !['soggy-download.zip', 'every-island.zip'].includes(item.file));
const isText = (data: Uint8Array) => !data.subarray(0, 4096).includes(0);
const textOf = async (pack: Pack, path: string) => decodeText(await pack.read(path)).text;

async function inputFor(
  pack: Pack,
  name: string,
  card: GameCard,
  gameFiles: string[],
  inside: ReadonlyMap<string, readonly string[]>,
): Promise<PlacementInput> {
  const texts = new Map<string, string>();
  for (const path of textsWanted(pack.entries, card)) texts.set(path, await textOf(pack, path));
  const best = pack.entries
    .map(({ path }) => ({ path, rank: readMeRank(path) }))
    .filter(({ rank }) => rank > 0)
    .sort((a, b) => b.rank - a.rank || (a.path < b.path ? -1 : 1))[0];
  return {
    entries: pack.entries,
    card,
    gameFiles,
    name,
    texts,
    inside,
    ...(best ? { readMe: { path: best.path, text: await textOf(pack, best.path) } } : {}),
  };
}

/** The same places, whether a settings file is edited or written; texts that speak to the reader do not matter. */
function same(a: ReadonlyMap<string, string>, b: ReadonlyMap<string, string>): boolean {
  const plain = (map: ReadonlyMap<string, string>) =>
    JSON.stringify(
      [...map]
        .filter(([path]) => !/\.(?:txt|md|html?|url|pdf)$/i.test(path))
        .map(([path, target]) => [path, target.toLowerCase().replace(/^edits /, '')])
        .sort(),
    );
  return plain(a) === plain(b);
}

function reaches(input: PlacementInput, wanted: ReadonlyMap<string, string>): boolean {
  let states: Record<string, string[]>[] = [{}];
  for (let click = 0; click <= 3; click++) {
    const next: Record<string, string[]>[] = [];
    for (const answers of states) {
      const { placement, questions } = proposePlacements({ ...input, answers });
      if (same(outcomeOf(input.entries, placement), wanted)) return true;
      if (next.length < 200)
        for (const { id, kind, options } of questions)
          if (!(id in answers)) {
            for (const option of options) next.push({ ...answers, [id]: [option.id] });
            if (kind === 'any')
              next.push({ ...answers, [id]: [] }, { ...answers, [id]: options.map((option) => option.id) });
          }
    }
    states = next;
  }
  return false;
}

async function studied(card: GameCard, trees: Record<string, Files>) {
  const files = Object.entries(trees).flatMap(([root, tree]) => Object.keys(tree).map((path) => `${root}/${path}`));
  const found = await studyGame(
    Object.entries(trees).map(([id, tree]) => ({
      id,
      title: card.roots.find((root) => root.id === id)?.title ?? id,
      files: Object.entries(tree).map(([path, data]) => ({ path, size: data.length })),
      read: async (path: string) => (tree[path] && isText(tree[path]) ? decodeText(tree[path]).text : undefined),
    })),
  );
  const inside = new Map<string, readonly string[]>();
  for (const [root, tree] of Object.entries(trees))
    for (const [path, data] of Object.entries(tree))
      if (data[0] === 0x50 && data[1] === 0x4b && data[2] === 3)
        inside.set(
          `${root}/${path}`,
          (await openPack(new Blob([data as BlobPart]), 'a.zip')).entries.map((entry) => entry.path),
        );
  return { card: found.card, files, inside };
}

const documentsOf = (
  card: GameCard,
  files: string[],
  trees: Record<string, Files>,
): { target: TargetPath; document: SettingsDocument }[] =>
  settingsTargets(card, files).flatMap(({ target, dialect }) => {
    const data = trees[target.slice(0, target.indexOf('/'))]?.[target.slice(target.indexOf('/') + 1)];
    return data ? [{ target, document: openSettings(decodeText(data).text, dialect) }] : [];
  });

const keysOf = (found: readonly SettingProposal[]) =>
  found.flatMap((one) => (one.kind === 'key' ? [`${one.file} ${one.path.join('/')} = ${one.value}`] : []));

describe('the demo games without their cards', () => {
  const modes = new Set<string>();

  it.each(DEMO_GAMES.map(({ card, folders }) => ({ title: card.title, card, folders })))(
    '$title: every pack of its shelf is right or asked well, every switch found',
    async ({ card, folders }) => {
      const trees = folders();
      const game = await studied(card, trees);
      const bad: string[] = [];
      for (const item of shelfOf(card.id)) {
        const blob = new Blob([item.build() as BlobPart]);
        const pack = /\.(?:zip|gz|7z|rar)$/.test(item.file)
          ? await openPack(blob, item.file)
          : packOfFiles([{ path: item.file, data: blob }], item.file, 'file');
        const described = proposePlacements(await inputFor(pack, item.file, card, game.files, game.inside));
        const input = await inputFor(pack, item.file, game.card, game.files, game.inside);
        const alone = proposePlacements(input);
        for (const { mode } of alone.parts) modes.add(mode);
        if (wholeTarget(alone.placement)) modes.add('zipped');
        const wanted = outcomeOf(pack.entries, described.placement);
        const right = alone.confidence !== 'ask' && same(outcomeOf(pack.entries, alone.placement), wanted);
        // Where the card's author has to ask as well, asking is right.
        const asked =
          alone.confidence === 'ask' &&
          (described.confidence === 'ask' || item.file in UNKNOWABLE || reaches(input, wanted));
        if (!right && !asked && !reaches(input, wanted)) bad.push(`${item.file}: ${alone.confidence}`);
        // Whatever a read-me names in a settings file of the game is found without the card as with it.
        if (input.readMe) {
          const read = { readMe: input.readMe, entries: pack.entries };
          const withCard = proposeSettings({
            card,
            documents: documentsOf(card, game.files, trees),
            placement: described.placement,
            ...read,
          });
          const without = keysOf(
            proposeSettings({
              card: game.card,
              documents: documentsOf(game.card, game.files, trees),
              placement: alone.placement,
              ...read,
            }),
          );
          for (const one of keysOf(withCard)) expect(without, item.file).toContain(one);
        }
        expect(placeEdits(alone.placement).every(({ edits }) => edits.length > 0)).toBe(true);
      }
      expect(bad).toEqual([]);
    },
  );

  it('finds every mode of placing but those that only a card can know', () => {
    expect([...modes].sort()).toEqual(
      expect.arrayContaining(['edits', 'inside', 'over', 'own-folder', 'title', 'zipped']),
    );
  });
});
