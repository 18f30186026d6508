import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { deploy, openPack, recover, readLedger, type Folder } from '@/core';
import { Bench, makePack } from '../../../tests/support/game';
import { INI, switchOn, restoreAll, exampleBench } from '../../../tests/support/deployBench';

describe('deploy', () => {
  it('adds, replaces and edits, and tells how many landed', async () => {
    const bench = await exampleBench();
    const plan = await bench.plan([{ pack: 'lower' }, switchOn]);
    expect(plan.steps.map(({ action, target }) => `${action} ${target}`)).toEqual([
      'add program/new/c.png',
      'replace program/tex/a.png',
      'replace program/tex/b.png',
      'edit user/settings.ini',
    ]);
    const entry = await bench.deploy([{ pack: 'lower' }, switchOn]);
    expect(entry).toMatchObject({
      number: 1,
      landed: 4,
      counts: { add: 1, replace: 2, edit: 1, restore: 0, remove: 0 },
    });
    expect(bench.contents()).toEqual({
      'program/keep.txt': 'own',
      'program/tex/a.png': 'lower a',
      'program/tex/b.png': 'lower b',
      'program/new/c.png': 'lower c',
      'user/settings.ini': INI.replace('Addon=0', 'Addon=1'),
    });
  });

  it('has nothing to do the second time', async () => {
    const bench = await exampleBench();
    await bench.deploy([{ pack: 'lower' }, switchOn]);
    const again = await bench.plan([{ pack: 'lower' }, switchOn]);
    expect(again.steps).toEqual([]);
    expect(again.unchanged).toBe(4);
  });

  it('lets what lies below come through when a pack goes', async () => {
    const bench = await exampleBench();
    await bench.deploy([{ pack: 'lower' }, { pack: 'upper' }]);
    expect(bench.contents()['program/tex/b.png']).toBe('upper b');
    await bench.deploy([{ pack: 'lower' }]);
    expect(bench.contents()['program/tex/b.png']).toBe('lower b');
    expect(bench.contents()['program/new/d.png']).toBeUndefined();
    await bench.deploy([]);
    expect(bench.contents()).toEqual({
      'program/keep.txt': 'own',
      'program/tex/a.png': 'own a',
      'program/tex/b.png': 'own b',
      'user/settings.ini': INI,
    });
  });

  it('writes no step for a file that the game has already, byte for byte', async () => {
    const same = await makePack('same.zip', { 'tex/a.png': 'own a', 'tex/b.png': 'other' });
    const bench = new Bench({ 'tex/a.png': 'own a', 'tex/b.png': 'own b' }, {}, { same });
    const plan = await bench.plan([{ pack: 'same' }]);
    expect(plan.steps.map(({ target }) => target)).toEqual(['program/tex/b.png']);
    expect(plan.unchanged).toBe(1);
  });

  it('joins folders and files that differ from the pack only in case or in Unicode form', async () => {
    // Unicode UAX #15: U+00FC and U+0075 U+0308 are canonically equivalent.
    const pack = await makePack('p.zip', {
      'TEX/A.PNG': 'new a',
      'tex/gru\u0308n.png': 'new green',
      'Tex/more.png': 'new',
    });
    const bench = new Bench({ 'tex/a.png': 'own a', 'tex/gr\u00fcn.png': 'own green' }, {}, { p: pack });
    await bench.deploy([{ pack: 'p' }]);
    expect(bench.contents()).toEqual({
      'program/tex/a.png': 'new a',
      'program/tex/gr\u00fcn.png': 'new green',
      'program/tex/more.png': 'new',
    });
  });

  it('stops before writing when a file changed after the plan', async () => {
    const bench = await exampleBench();
    const plan = await bench.plan([{ pack: 'lower' }]);
    await bench.program.write('tex/a.png', new TextEncoder().encode('updated'));
    await expect(deploy(plan, bench.workshop(), { title: 'Deploy', layers: [] })).rejects.toMatchObject({
      code: 'changed-since-plan',
    });
    expect(bench.contents()['program/tex/a.png']).toBe('updated');
    expect(bench.contents()['program/tex/b.png']).toBe('own b');
  });

  it('puts everything back when it is stopped', async () => {
    const bench = await exampleBench();
    const before = bench.contents();
    const plan = await bench.plan([{ pack: 'lower' }, switchOn]);
    const stop = new AbortController();
    const onProgress = ({ phase, done }: { phase: string; done: number }) =>
      phase.startsWith('Writing') && done === 2 && stop.abort();
    await expect(
      deploy(plan, bench.workshop(), { title: 'Deploy', layers: [], signal: stop.signal, onProgress }),
    ).rejects.toMatchObject({ code: 'cancelled' });
    expect(bench.contents()).toEqual(before);
    expect(await recover(bench.workshop())).toBeUndefined();
  });

  it('puts everything back when the pack turns out to be damaged, while other files are still being written', async () => {
    const zip = zipSync({ 'tex/a.png': strToU8('new a'), 'tex/b.png': strToU8('new b') }, { level: 0 });
    zip[Buffer.from(zip).indexOf('new b')] = 0x4e;
    const bench = new Bench(
      { 'tex/a.png': 'own a', 'tex/b.png': 'own b' },
      {},
      { broken: await openPack(new Blob([zip]), 'broken.zip') },
    );
    const before = bench.contents();
    const slow = (folder: Folder): Folder => ({
      list: (under) => folder.list(under),
      stat: (path) => folder.stat(path),
      read: (path) => folder.read(path),
      remove: (path) => folder.remove(path),
      write: async (path, data) => {
        if (path === 'tex/a.png') await new Promise((done) => setTimeout(done, 60));
        await folder.write(path, data);
      },
    });
    await expect(bench.deploy([{ pack: 'broken' }], bench.workshop(slow))).rejects.toMatchObject({
      code: 'taken-back',
    });
    await new Promise((done) => setTimeout(done, 150));
    expect(bench.contents()).toEqual(before);
    expect(await recover(bench.workshop())).toBeUndefined();
  });

  it('keeps a drifted file before putting the original back', async () => {
    const bench = await exampleBench();
    await bench.deploy([{ pack: 'lower' }]);
    await bench.program.write('tex/a.png', new TextEncoder().encode('edited by hand'));
    const plan = await bench.plan([{ pack: 'lower' }]);
    expect(plan.drifted).toMatchObject([{ target: 'program/tex/a.png', how: 'changed', layer: 'layer-lower' }]);
    await restoreAll(bench);
    expect(bench.contents()['program/tex/a.png']).toBe('own a');
    const kept = Object.values(bench.vault.contents()).map((data) => new TextDecoder().decode(data));
    expect(kept).toContain('edited by hand');
  });
});

describe('edits in living files', () => {
  it('keeps what the game wrote meanwhile, and takes back only its own value', async () => {
    const bench = await exampleBench();
    await bench.deploy([switchOn]);
    const written = INI.replace('Addon=0', 'Addon=1').replace('Horn=1', 'Horn=0').replace('Wide=1280', 'Wide=1920');
    await bench.user.write('settings.ini', new TextEncoder().encode(written));
    await restoreAll(bench);
    expect(bench.contents()['user/settings.ini']).toBe(written.replace('Addon=1', 'Addon=0'));
  });

  it('leaves a value alone that somebody changed since, and says so', async () => {
    const bench = await exampleBench();
    await bench.deploy([switchOn]);
    const written = INI.replace('Addon=0', 'Addon=2');
    await bench.user.write('settings.ini', new TextEncoder().encode(written));
    const plan = await bench.plan([]);
    expect(plan.leftAlone).toEqual([{ target: 'user/settings.ini', path: ['Graphics', 'Addon'] }]);
    await restoreAll(bench);
    expect(bench.contents()['user/settings.ini']).toBe(written);
  });

  it('makes a settings file that was not there, and removes it again', async () => {
    const bench = new Bench({}, {}, {});
    await bench.deploy([switchOn]);
    expect(bench.contents()).toEqual({ 'user/settings.ini': '[Graphics]\nAddon=1\n' });
    await restoreAll(bench);
    expect(bench.contents()).toEqual({});
  });

  it('edits UTF-16 and Windows-1252 files in their own encoding', async () => {
    const utf16 = new Uint8Array([
      0xff,
      0xfe,
      ...[...'[Graphics]\r\nAddon=0\r\n'].flatMap((char) => [char.charCodeAt(0), 0]),
    ]);
    const latin = Uint8Array.from([...'[Graphics]\nName=Gr\u00fcn\nAddon=0\n'].map((char) => char.charCodeAt(0)));
    for (const bytes of [utf16, latin]) {
      const bench = new Bench({}, {}, {});
      await bench.user.write('settings.ini', bytes);
      await bench.deploy([switchOn]);
      const after = bench.user.contents()['settings.ini'] as Uint8Array;
      expect(after.length).toBe(bytes.length);
      expect([...after].filter((byte, i) => byte !== bytes[i])).toEqual([0x31]);
      await restoreAll(bench);
      expect(bench.user.contents()['settings.ini']).toEqual(bytes);
    }
  });
});

describe('the ledger', () => {
  it('holds a line for each deployment, latest first', async () => {
    const bench = await exampleBench();
    await bench.deploy([{ pack: 'lower' }]);
    await restoreAll(bench);
    expect(
      (await readLedger(bench.vault)).map(({ number, title, landed, layers }) => ({
        number,
        title,
        landed,
        layers: layers.length,
      })),
    ).toEqual([
      { number: 2, title: 'Put everything back', landed: 3, layers: 0 },
      { number: 1, title: 'Deploy', landed: 3, layers: 1 },
    ]);
  });
});
