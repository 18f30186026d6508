import 'fake-indexeddb/auto';
import { describe, expect, it } from 'vitest';
import { openPack } from '@/core';
import { DEMO_GAMES } from '@/demo/demoGames';
import { SHELF } from '@/demo/shelf';
import { BrowserFolder } from '@/folders/browser';
import { answerAll } from '../../../tests/support/mistakes';
import { Seat, blob, demo, eachInItsBrowser, folders, reloaded } from '../../../tests/support/seat';

eachInItsBrowser();

describe('the ways of placing, from the shelf into the game and out again', () => {
  for (const { card } of DEMO_GAMES)
    it(`${card.title}: every pack of its shelf deploys, verified, and all of it comes out again byte for byte`, async () => {
      const seat = await demo();
      await seat.engine.change({ do: 'choose game', id: card.id });
      const before = await folders(card.id);
      for (const { file, game } of SHELF)
        if (game === card.id && !['every-island.zip', 'soggy-download.zip'].includes(file))
          await seat.engine.change({ do: 'fetch from shelf', file });
      await answerAll(seat);
      for (const { layer, placement } of seat.game.packs)
        for (const { id, options } of placement.questions.filter(({ kind, answered }) => kind === 'any' && !answered))
          await seat.engine.change({
            do: 'answer question',
            layer,
            question: id,
            answer: options.map((option) => option.id),
          });
      expect(seat.game.packs.filter(({ placement }) => placement.confidence === 'ask').map(({ name }) => name)).toEqual(
        [],
      );
      expect(seat.game.plan.refused).toEqual([]);
      const { landed } = await seat.engine.change({ do: 'deploy' });
      expect(landed).toBeGreaterThan(3);
      expect(seat.game.plan.total).toBe(0);
      expect(await folders(card.id)).not.toEqual(before);
      // A second look reads nothing anew and finds nothing to do.
      const again = await reloaded();
      expect(again.game.plan.total).toBe(0);
      await again.engine.change({ do: 'put all back' });
      expect(await folders(card.id)).toEqual(before);
    });

  const open = async (id: string): Promise<Seat> => {
    const seat = await demo();
    await seat.engine.change({ do: 'choose game', id });
    return seat;
  };
  const fileOf = async (root: string, path: string): Promise<Blob> => (await BrowserFolder.open(root)).read(path);

  it('asks about the wrong region, and goes under the right id', async () => {
    const seat = await open('tinplate');
    const { layer } = await seat.fromShelf('sugar-buns.zip');
    expect(seat.game).toMatchObject({
      plan: { total: 0 },
      guide: { step: 'place' },
      packs: [{ placement: { confidence: 'ask', questions: [{ suggested: ['CB-2041'] }] } }],
    });
    await seat.engine.change({
      do: 'answer question',
      layer,
      question: 'title:Sugar Buns/CB-7041',
      answer: ['CB-7041'],
    });
    expect(seat.game.packs[0]?.placement.warnings.map(({ code }) => code)).toContain('wrong-region');
    await seat.engine.change({
      do: 'answer question',
      layer,
      question: 'title:Sugar Buns/CB-7041',
      answer: ['CB-2041'],
    });
    expect(seat.game.packs[0]?.placement.warnings).toEqual([]);
    await seat.engine.change({ do: 'deploy' });
    expect(
      Object.keys(await folders('tinplate')).filter((path) => path.startsWith('user/paintbox/CB-2041/swap/')).length,
    ).toBe(6);
  });

  it('keeps a pack zipped, puts old packs inside the core archive, and writes the manifest of a converted one', async () => {
    const seat = await open('hedgerow');
    const core = await folders('hedgerow');
    await seat.fromShelf('rose-porch.zip');
    await seat.fromShelf('old-kitchen.zip');
    await seat.fromShelf('attic-stairs.zip');
    await seat.engine.change({ do: 'deploy' });
    const shelf = SHELF.find(({ file }) => file === 'rose-porch.zip')?.build() as Uint8Array;
    expect(
      Buffer.compare(
        new Uint8Array(await (await fileOf('hedgerow-hall', 'packs/rose-porch.zip')).arrayBuffer()),
        shelf,
      ),
    ).toBe(0);
    const changed = await openPack(await fileOf('hedgerow-hall', 'core.hha'), 'core.hha.zip');
    expect(changed.entries.map(({ path }) => path).sort()).toEqual([
      'pictures/hedge.png',
      'rooms/kitchen.room',
      'rooms/porch.room',
      'text/en.lang',
    ]);
    expect(new TextDecoder().decode(await changed.read('rooms/kitchen.room'))).toContain('copper');
    expect(new TextDecoder().decode(await changed.read('rooms/porch.room'))).toContain('hedge');
    const converted = await openPack(await fileOf('hedgerow-hall', 'packs/attic-stairs.zip'), 'attic-stairs.zip');
    expect(converted.entries.map(({ path }) => path).sort()).toEqual([
      'face.png',
      'pack.leaf',
      'pictures/stairs.png',
      'rooms/attic.room',
    ]);
    expect(JSON.parse(new TextDecoder().decode(await converted.read('pack.leaf')))).toMatchObject({
      title: 'Attic Stairs',
      edition: 'garden',
    });
    // One of them leaves: the others stay, and the archive is the original again.
    const old = seat.game.packs.find(({ name }) => name === 'Old Kitchen')?.layer as string;
    await seat.engine.change({ do: 'take out', layers: [old] });
    await seat.engine.change({ do: 'deploy' });
    expect((await folders('hedgerow'))['hall/core.hha']).toBe(core['hall/core.hha']);
  });

  it('brings values of a settings file in as edits, and takes them back where they still stand', async () => {
    const seat = await open('gullwick');
    await seat.fromShelf('clear-waters-v1.4.zip');
    expect(seat.game.packs[0]).toMatchObject({
      placement: { edits: 2 },
      facts: expect.arrayContaining([{ kind: 'version', value: '1.4', where: 'the file’s name' }]),
    });
    // Its read-me as a list of steps: what is found in the game's settings waits there.
    expect(seat.game.packs[0]?.steps.map(({ state, says }) => `${state}: ${says}`)).toEqual(
      expect.arrayContaining([
        expect.stringMatching(/^settings: .*WaterDetail = 4/),
        expect.stringMatching(/^settings: Start with -nosplash/),
      ]),
    );
    expect(seat.game.packs[0]?.placement.warnings.map(({ code }) => code).sort()).toEqual([
      'hidden-extension',
      'program-inside',
    ]);
    await seat.engine.change({ do: 'deploy' });
    const ini = await (await fileOf('gullwick-user', 'ferries.ini')).text();
    expect(ini).toContain('WaterDetail=4');
    expect(ini).toContain('AddonTextures=1');
    expect(ini).toContain('; Gullwick Ferries, written by the game and by you');
  });

  it('knows another release of a pack, and puts it in its place with the decisions', async () => {
    const seat = await open('gullwick');
    const first = await seat.bringIn(
      blob({ 'Wet 1.0/assets/textures/quay/planks.png': 'a', 'Wet 1.0/assets/textures/quay/rope.png': 'b' }),
      'wet-quay-1.0.zip',
    );
    await seat.engine.change({
      do: 'take file',
      layer: first.layer,
      path: 'Wet 1.0/assets/textures/quay/rope.png',
      takeIn: false,
    });
    const second = await seat.bringIn(
      blob({
        'Wet 1.1/assets/textures/quay/planks.png': 'a2',
        'Wet 1.1/assets/textures/quay/rope.png': 'b2',
        'Wet 1.1/assets/textures/quay/wall.png': 'c',
      }),
      'wet-quay-1.1.zip',
    );
    expect(second.earlier).toEqual({ layer: first.layer, name: 'Wet Quay 1.0', newer: true, versions: '1.0 → 1.1' });
    const tag = seat.game.packs[0]?.tag;
    await seat.engine.change({ do: 'replace release', layer: second.layer, earlier: first.layer });
    expect(seat.game.packs).toMatchObject([{ name: 'Wet Quay 1.1', tag, placement: { placed: 2, leftOut: 1 } }]);
  });

  it('opens an archive inside a pack, and takes folders and loose files as packs', async () => {
    const seat = await open('hedgerow');
    const { layer } = await seat.fromShelf('tea-garden-download.zip');
    const inside = (await seat.engine.change({ do: 'open inside', layer, path: 'tea-garden.zip' })).brought[0];
    expect(seat.game.packs.find((pack) => pack.layer === inside?.layer)).toMatchObject({
      name: 'Tea Garden',
      files: 2,
    });
    const text = (value: string) => new Blob([value]);
    const {
      brought: [folder, files],
    } = await seat.engine.change({
      do: 'bring in',
      files: [
        { name: 'My rooms/core.hha/rooms/porch.room', data: text('room porch') },
        { name: 'a.bin', data: text('1') },
        { name: 'b.bin', data: text('2') },
      ],
    });
    expect(seat.game.packs.find((pack) => pack.layer === folder?.layer)).toMatchObject({
      name: 'My Rooms',
      format: 'folder',
      files: 1,
    });
    expect(seat.game.packs.find((pack) => pack.layer === files?.layer)).toMatchObject({ format: 'file', files: 2 });
  });

  it('draws what goes where, and follows a move by hand', async () => {
    const seat = await open('gullwick');
    const { layer } = await seat.fromShelf('painted-boats.zip');
    expect((await seat.engine.ask({ ask: 'place map', layer })).links).toEqual([
      { from: 'boats', to: 'program/assets/textures/boats', files: 7, replacing: 7, moved: false, as: 'files' },
    ]);
    await expect(
      seat.engine.change({ do: 'move in pack', layer, from: 'boats', to: 'program/../x' }),
    ).rejects.toMatchObject({ code: 'bad-target' });
    await seat.engine.change({ do: 'move in pack', layer, from: 'boats', to: 'program/addons/boats' });
    expect((await seat.engine.ask({ ask: 'place map', layer })).links).toMatchObject([
      { to: 'program/addons/boats', replacing: 0, moved: true },
    ]);
    await seat.engine.change({ do: 'move in pack', layer, from: 'boats', to: undefined });
    expect((await seat.engine.ask({ ask: 'place map', layer })).links).toMatchObject([
      { to: 'program/assets/textures/boats', moved: false },
    ]);
  });

  it('takes another card only where it fits, and says what is wrong with it', async () => {
    const seat = await open('hedgerow');
    const card = await seat.engine.ask({ ask: 'card' });
    await expect(seat.engine.change({ do: 'set card', card: { ...card, roots: [] } })).rejects.toMatchObject({
      code: 'bad-card',
    });
    await expect(seat.engine.change({ do: 'set card', card: 'nonsense' })).rejects.toMatchObject({ code: 'bad-card' });
    await seat.engine.change({ do: 'set card', card: { ...card, title: 'My Hall' } });
    expect((await reloaded()).game.title).toBe('My Hall');
  });
});
