import { describe, expect, it } from 'vitest';
import {
  checkBefore,
  decodeText,
  diagnose,
  nameKey,
  openSettings,
  readLog,
  settingsTargets,
  switchStates,
  textsForChecks,
  traceMessages,
  type Finding,
  type PresentFile,
  parseTarget,
} from '@/core';
import { gullwickFolders } from '@/demo/gullwick';
import { gullwickCard as card } from '@/demo/gullwickCard';
import { seeded } from '@/demo/random';
import { MemoryFolder } from '../../../tests/support/memoryFolder';
import { runGullwick } from '@/trial/gullwick';
import { text as bytes, PNG } from '../../../tests/support/bytes';

/** A game in memory: every file by target, and the layer that brought it. */
interface Game {
  files: Map<string, { bytes: Uint8Array; layer?: string }>;
  /** The game's own texts that packs replace. */
  originals: Map<string, string>;
}

const PARTS = ['porthole', 'cleat', 'anchor', 'lantern', 'compass', 'barrel', 'rudder', 'ladder'];

/** Gullwick Ferries with three add-ons, a paint and a file of words, all as they should be. */
const OWN = gullwickFolders();

function healthy(): Game {
  const game: Game = { files: new Map(), originals: new Map() };
  for (const [root, tree] of Object.entries(OWN))
    for (const [path, data] of Object.entries(tree)) game.files.set(`${root}/${path}`, { bytes: data });
  for (const addon of ['brass', 'ropes', 'lamps']) {
    const put = (path: string, data: Uint8Array) =>
      game.files.set(`program/addons/${addon}/${path}`, { bytes: data, layer: addon });
    put('addon.txt', bytes(`name = ${addon}\nversion = 1.0\n`));
    put('icon.png', PNG);
    put('scripts/fit.txt', bytes(PARTS.map((part) => `fit ${addon}-${part} hull\n`).join('')));
    for (const part of PARTS) put(`textures/${addon}-${part}.png`, PNG);
  }
  game.files.set('program/vessels/heron/paints/storm-grey/hull.png', { bytes: PNG, layer: 'paint' });
  const edit = (target: string, change: (text: string) => string) =>
    game.files.set(target, { bytes: bytes(change(decodeText(game.files.get(target)?.bytes ?? bytes('')).text)) });
  edit('program/vessels/heron/fleet.ini', (text) => `${text}[hull 2]\r\nname=Storm\r\nfolder=storm-grey\r\n`);
  edit('user/ferries.ini', (text) =>
    text
      .replace('AddonFolders=parts-locker', 'AddonFolders=parts-locker,brass,ropes,lamps')
      .replace('AddonTextures=0', 'AddonTextures=1'),
  );
  const words = game.files.get('program/assets/text/harbour.lang')?.bytes ?? bytes('');
  game.originals.set(nameKey('program/assets/text/harbour.lang'), decodeText(words).text);
  game.files.set('program/assets/text/harbour.lang', { bytes: words, layer: 'words' });
  return game;
}

/** Starts the stand-in and says what the app makes of it. */
async function diagnosed(game: Game): Promise<Finding[]> {
  const trees: Record<'program' | 'user', Record<string, Uint8Array>> = { program: {}, user: {} };
  for (const [target, { bytes: data }] of game.files)
    trees[target.startsWith('program/') ? 'program' : 'user'][target.slice(target.indexOf('/') + 1)] = data;
  const folders = { program: new MemoryFolder(trees.program), user: new MemoryFolder(trees.user) };
  await runGullwick(folders);
  const log = readLog(decodeText(folders.user.contents()['load.log'] ?? bytes('')).text, card.log?.rules ?? []);
  const files: PresentFile[] = [...game.files].map(([target, { layer }]) => ({
    target: parseTarget(target),
    ...(layer === undefined ? {} : { layer }),
  }));
  const texts = new Map(
    textsForChecks(card, files).map((target) => [
      nameKey(target),
      decodeText(game.files.get(target)?.bytes ?? bytes('')).text,
    ]),
  );
  const settings = settingsTargets(
    card,
    files.map(({ target }) => target),
  ).map((file) => ({
    file,
    document: openSettings(decodeText(game.files.get(file.target)?.bytes ?? bytes('')).text, file.dialect),
  }));
  const nameOf = (layer: string) => layer;
  const found = [
    ...traceMessages(log.messages, {
      card,
      rules: card.log?.rules ?? [],
      files,
      leftOut: [],
      originals: game.originals,
      nameOf,
    }),
    ...checkBefore({ card, files, texts, originals: game.originals, settings, nameOf }),
  ];
  const ini = settings.find(({ file }) => file.target === 'user/ferries.ini')?.document;
  return diagnose({
    card,
    state: { format: 1, folders: [], files: [] },
    switches: switchStates(
      card,
      files.map(({ target }) => target),
      (one) => ini?.get(one.path),
    ),
    log,
    pending: 0,
    found,
  });
}

/** One thing goes wrong. @returns what is broken: a path, or a part of one */
type Break = (game: Game, pick: <T>(all: readonly T[]) => T) => string;

const moveFile = (game: Game, from: string, to: string): string => {
  const file = game.files.get(from);
  if (file) {
    game.files.delete(from);
    game.files.set(to, file);
  }
  return to;
};

const textureOf = (pick: <T>(all: readonly T[]) => T) => {
  const addon = pick(['brass', 'ropes', 'lamps']);
  return { addon, path: `program/addons/${addon}/textures/${addon}-${pick(PARTS)}.png` };
};

const BREAKS: Record<string, Break> = {
  'moved one level up': (game, pick) => {
    const { path } = textureOf(pick);
    return moveFile(game, path, path.replace('/textures/', '/'));
  },
  'moved one level down': (game, pick) => {
    const { path } = textureOf(pick);
    return moveFile(game, path, path.replace('/textures/', `/${pick(['more', 'textures', 'new'])}/textures/`));
  },
  'moved into another folder': (game, pick) => {
    const { addon, path } = textureOf(pick);
    return moveFile(
      game,
      path,
      `program/addons/${addon}/${pick(['art', 'pictures', 'old/stuff'])}/${path.split('/').at(-1) ?? ''}`,
    );
  },
  'renamed by a letter': (game, pick) => {
    const { path } = textureOf(pick);
    const at = path.lastIndexOf('-') + 2;
    return moveFile(game, path, path.slice(0, at) + pick(['x', 'q', '_']) + path.slice(at + pick([0, 1])));
  },
  'other capitals': (game, pick) => {
    const { path } = textureOf(pick);
    const cut = path.lastIndexOf('/') + 1;
    return moveFile(game, path, path.slice(0, cut) + path.slice(cut, cut + 1).toUpperCase() + path.slice(cut + 1));
  },
  'other extension': (game, pick) => {
    const { path } = textureOf(pick);
    return moveFile(game, path, path.replace('.png', pick(['.dds', '.png.txt', '.jpg'])));
  },
  'key dropped': (game, pick) => {
    const target = 'program/assets/text/harbour.lang';
    const lines = decodeText(game.files.get(target)?.bytes ?? bytes('')).text.split('\r\n');
    const gone = pick(lines.filter((line) => line.includes(':')));
    game.files.set(target, { bytes: bytes(lines.filter((line) => line !== gone).join('\r\n')), layer: 'words' });
    return target;
  },
  'a folder cut in': (game, pick) => {
    const addon = pick(['brass', 'ropes', 'lamps']);
    for (const path of [...game.files.keys()])
      if (path.startsWith(`program/addons/${addon}/`))
        moveFile(game, path, path.replace(`/addons/${addon}/`, `/addons/${addon}/${addon} 1.0/`));
    return `program/addons/${addon}/${addon} 1.0`;
  },
  'manifest gone': (game, pick) => {
    const path = `addons/${pick(['brass', 'ropes', 'lamps'])}/addon.txt`;
    game.files.delete(`program/${path}`);
    return path;
  },
  'icon gone': (game, pick) => {
    const path = `addons/${pick(['brass', 'ropes', 'lamps'])}/icon.png`;
    game.files.delete(`program/${path}`);
    return path;
  },
  'paint’s folder renamed': (game, pick) => {
    const name = pick(['Storm-grey', 'storm-gray', 'storm grey', 'stormgrey']);
    moveFile(game, 'program/vessels/heron/paints/storm-grey/hull.png', `program/vessels/heron/paints/${name}/hull.png`);
    return name;
  },
  'switch off': (game) => {
    game.files.set('user/ferries.ini', {
      bytes: bytes(
        decodeText(game.files.get('user/ferries.ini')?.bytes ?? bytes('')).text.replace(
          'AddonTextures=1',
          'AddonTextures=0',
        ),
      ),
    });
    game.files.set('program/assets/textures/quay/new.png', { bytes: PNG, layer: 'quay' });
    return 'AddonTextures';
  },
};

describe('a healthy game', () => {
  it('gives no alarm', async () => {
    expect((await diagnosed(healthy())).filter(({ level }) => level === 'wrong')).toEqual([]);
  });
});

describe('one thing broken at random', () => {
  it('is the first finding’s cause in at least 95 of 100 of 1,000 seeded breaks', async () => {
    const random = seeded(20_260);
    const pick = <T>(all: readonly T[]): T => all[Math.floor(random() * all.length)] as T;
    const kinds = Object.keys(BREAKS);
    const missed = new Map<string, number>();
    let right = 0;
    for (let i = 0; i < 1000; i++) {
      const game = healthy();
      const kind = kinds[i % kinds.length] as string;
      const broken = (BREAKS[kind] as Break)(game, pick);
      const first = (await diagnosed(game)).find(({ level }) => level === 'wrong');
      const said = `${first?.about ?? ''}\n${first?.cause ?? ''}\n${first?.evidence ?? ''}`;
      if (said.includes(broken)) right++;
      else missed.set(kind, (missed.get(kind) ?? 0) + 1);
    }
    console.log(
      `tracing: ${right} of 1,000 seeded breaks were the first finding’s cause${missed.size > 0 ? `; missed: ${[...missed].map(([kind, n]) => `${kind} ${n}`).join(', ')}` : ''}`,
    );
    expect(right).toBeGreaterThanOrEqual(950);
  });
});
