import {
  existsSync,
  readFileSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
  symlinkSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { createHash } from 'node:crypto';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { deploy, recover, restore, type DeployOptions } from '@/core';
import { benchDialect, makePack } from '../../../tests/support/game';
import { makeDiskGame, removeDiskGames } from '../../../tests/support/diskGame';
import { INI, OWN, stack, game } from '../../../tests/support/besideGame';

/*
 * Another program writes to the game in the very moment between an original that was kept and the file that replaces
 * it. What it wrote must be there afterwards, whatever else happens. Held against Node's own file calls on a real disk.
 */

removeDiskGames();

/** Ways in which a program writes. */
const WAYS: Record<string, (at: string) => void> = {
  'renames another file over it': (at) => {
    writeFileSync(`${at}.tmp`, 'saved by the game');
    renameSync(`${at}.tmp`, at);
  },
  'writes into it': (at) => writeFileSync(at, 'saved by the game'),
};

/** Calls it when all originals are kept and nothing is written yet. */
const whenKept = (act: () => void): Pick<DeployOptions, 'onProgress'> => {
  let acted = false;
  return {
    onProgress: ({ phase, done, total }) => {
      if (acted || !phase.startsWith('Keeping') || done < total) return;
      acted = true;
      act();
    },
  };
};

const left = (folder: string) => readdirSync(folder).filter((name) => name.startsWith('.satchel'));

describe.skipIf(process.platform === 'win32')('a program that writes after originals were kept', () => {
  for (const target of ['program/a.png', 'program/c.png', 'user/settings.ini'])
    for (const [way, act] of Object.entries(WAYS)) {
      it(`${way} (${target}): its version stays, and everything else is taken back`, async () => {
        const { bench, workshop, at } = await game();
        const plan = await bench.plan(stack, workshop);
        const work = deploy(plan, workshop, { title: 'Deploy', layers: [], ...whenKept(() => act(at(target))) });
        await expect(work).rejects.toMatchObject({
          code: 'taken-back',
          message: expect.stringContaining(target.split('/')[1] as string) as string,
        });
        expect(readFileSync(at(target), 'utf8')).toBe('saved by the game');
        for (const [other, text] of Object.entries(OWN))
          if (other !== target) expect(readFileSync(at(other), 'utf8'), other).toBe(text);
        expect([...left(at('program')), ...left(at('user'))]).toEqual([]);
        expect(await recover(workshop)).toBeUndefined();
      });

      it(`${way} (${target}): asked, the player leaves it; the rest lands, and goes back`, async () => {
        const { bench, workshop, at } = await game();
        const plan = await bench.plan(stack, workshop);
        const asked: unknown[] = [];
        const entry = await deploy(plan, workshop, {
          title: 'Deploy',
          layers: [],
          ...whenKept(() => act(at(target))),
          onStuck: async (stuck) => (asked.push(stuck), 'leave'),
        });
        expect(asked).toMatchObject([{ target, how: 'changed' }]);
        expect(entry.leftOut).toEqual([target]);
        expect(readFileSync(at(target), 'utf8')).toBe('saved by the game');
        await restore(workshop, { dialectOf: benchDialect });
        expect(readFileSync(at(target), 'utf8')).toBe('saved by the game');
        for (const [other, text] of Object.entries(OWN))
          if (other !== target) expect(readFileSync(at(other), 'utf8'), other).toBe(text);
      });
    }

  it('deletes a file: nothing is put in its place without a question', async () => {
    const { bench, workshop, at } = await game();
    const plan = await bench.plan(stack, workshop);
    const entry = await deploy(plan, workshop, {
      title: 'Deploy',
      layers: [],
      ...whenKept(() => rmSync(at('program/a.png'))),
      onStuck: async () => 'leave',
    });
    expect(entry.leftOut).toEqual(['program/a.png']);
    expect(existsSync(at('program/a.png'))).toBe(false);
  });

  it('writes as many bytes in the same moment, so that size and date say nothing', async () => {
    const { bench, workshop, at } = await game();
    const plan = await bench.plan(stack, workshop);
    const date = statSync(at('user/settings.ini')).mtime;
    const act = () => {
      writeFileSync(at('user/settings.ini'), INI.replace('0', '7'));
      utimesSync(at('user/settings.ini'), date, date);
    };
    await expect(deploy(plan, workshop, { title: 'Deploy', layers: [], ...whenKept(act) })).rejects.toMatchObject({
      code: 'taken-back',
    });
    expect(readFileSync(at('user/settings.ini'), 'utf8')).toBe(INI.replace('0', '7'));
  });

  it('writes to a settings file while everything is put back', async () => {
    const { bench, workshop, at } = await game();
    await bench.deploy(stack, workshop);
    const written = INI.replace('0', '1') + 'Horn=1\n';
    const work = restore(workshop, {
      dialectOf: benchDialect,
      ...whenKept(() => writeFileSync(at('user/settings.ini'), written)),
    });
    await expect(work).rejects.toMatchObject({ code: 'taken-back' });
    expect(readFileSync(at('user/settings.ini'), 'utf8')).toBe(written);
    expect(readFileSync(at('program/a.png'), 'utf8')).toBe('new a');
    await restore(workshop, { dialectOf: benchDialect });
    expect(readFileSync(at('user/settings.ini'), 'utf8')).toBe(INI + 'Horn=1\n');
    expect(readFileSync(at('program/a.png'), 'utf8')).toBe('own a');
  });

  it('wrote something else by the time of the next start: that stays, and what was there before is kept', async () => {
    const { bench, workshop, at } = await game();
    const plan = await bench.plan(stack, workshop);
    const stop = new AbortController();
    // From the moment on at which everything is written the folders do nothing any more, as when the power goes.
    const cut = Object.fromEntries(
      Object.entries(workshop.folders).map(([id, folder]) => [
        id,
        new Proxy(folder, {
          get: (inner, name) =>
            stop.signal.aborted && name === 'stat'
              ? async () => Promise.reject(new Error('cut off'))
              : (Reflect.get(inner, name) as unknown),
        }),
      ]),
    );
    const onProgress: DeployOptions['onProgress'] = ({ phase, done, total }) =>
      phase.startsWith('Writing') && done === total && stop.abort();
    await expect(
      deploy(plan, { ...workshop, folders: cut }, { title: 'Deploy', layers: [], onProgress, signal: stop.signal }),
    ).rejects.toMatchObject({ code: 'left-open' });
    writeFileSync(at('program/b.png'), 'saved by the game');
    expect(await recover(workshop)).toMatchObject({ outcome: 'taken-back', setAside: ['program/b.png'] });
    expect(readFileSync(at('program/b.png'), 'utf8')).toBe('saved by the game');
    expect(readFileSync(at('program/a.png'), 'utf8')).toBe('own a');
    const hash = createHash('sha256').update('own b').digest('hex');
    expect(readFileSync(at(`backup/satchel/objects/${hash.slice(0, 2)}/${hash}`), 'utf8')).toBe('own b');
  });
});

it.skipIf(process.platform === 'win32')(
  'a place with two names, by a link inside the game, is refused in the plan with its own sentence; the rest lands',
  async () => {
    const packs = { p: await makePack('p.zip', { 'a.png': 'new a', 'alias/x.png': 'new x', dead: 'new' }) };
    const { bench, workshop, at } = makeDiskGame({ ...OWN, 'program/real/x.png': 'own x' }, packs);
    symlinkSync('real', at('program/alias'));
    symlinkSync('nowhere', at('program/dead'));
    const plan = await bench.plan([{ pack: 'p' }], workshop);
    expect(plan.steps.map(({ target }) => target)).toEqual(['program/a.png']);
    expect(plan.refused.map(({ target, why }) => [target, why.split(';')[0]])).toEqual([
      ['program/alias/x.png', '“alias” is a link to another place'],
      ['program/dead', '“dead” is a link to another place'],
    ]);
    expect((await bench.deploy([{ pack: 'p' }], workshop)).landed).toBe(1);
    expect(readFileSync(at('program/real/x.png'), 'utf8')).toBe('own x');
  },
);

describe.skipIf(process.platform === 'win32')('a file that was moved aside when the app was killed', () => {
  const asideOf = (at: string) =>
    path.join(
      path.dirname(at),
      `.satchel-${createHash('sha256').update(path.basename(at)).digest('hex').slice(0, 24)}.aside`,
    );
  const begun = async () => {
    const made = await game();
    const plan = await made.bench.plan(stack, made.workshop);
    const stop = () => {
      throw new Error('killed');
    };
    const cut = {
      ...made.workshop,
      folders: Object.fromEntries(
        Object.entries(made.workshop.folders).map(([id, folder]) => [
          id,
          new Proxy(folder, {
            get: (inner, name) =>
              ['swap', 'endSwap', 'stat'].includes(String(name)) ? stop : (Reflect.get(inner, name) as unknown),
          }),
        ]),
      ),
    };
    await deploy(plan, cut, { title: 'Deploy', layers: [] }).catch(() => undefined);
    return made;
  };

  it('leaves nothing beside it of what was being written', async () => {
    const { workshop, at } = await begun();
    // No process has this number: it is above the highest that Linux gives.
    for (const folder of ['program', 'user']) writeFileSync(at(`${folder}/.satchel-99999999-0000000001.part`), 'half');
    expect((await recover(workshop))?.outcome).toBe('taken-back');
    expect([...left(at('program')), ...left(at('user'))]).toEqual([]);
  });

  it('is put back as a copy where the disk gives no second name any more, and nothing of it is lost', async () => {
    const { bench, workshop, at } = await game();
    const plan = await bench.plan(stack, workshop);
    const vault = new Proxy(workshop.vault, {
      get: (inner, name) => (name === 'link' ? async () => undefined : (Reflect.get(inner, name) as unknown)),
    });
    const stop = new AbortController();
    const onProgress: DeployOptions['onProgress'] = ({ phase, done, total }) =>
      phase.startsWith('Writing') && done === total && stop.abort();
    await expect(
      deploy(plan, { ...workshop, vault }, { title: 'Deploy', layers: [], onProgress, signal: stop.signal }),
    ).rejects.toMatchObject({ code: 'cancelled' });
    for (const [target, text] of Object.entries(OWN)) expect(readFileSync(at(target), 'utf8'), target).toBe(text);
  });

  it('gets its name back', async () => {
    const { workshop, at } = await begun();
    renameSync(at('program/a.png'), asideOf(at('program/a.png')));
    expect((await recover(workshop))?.outcome).toBe('taken-back');
    expect(readFileSync(at('program/a.png'), 'utf8')).toBe('own a');
    expect(left(at('program'))).toEqual([]);
  });

  it('is kept where another program has put something in its place, and neither is lost', async () => {
    const { workshop, at } = await begun();
    writeFileSync(at('program/a.png'), 'first save');
    renameSync(at('program/a.png'), asideOf(at('program/a.png')));
    writeFileSync(at('program/a.png'), 'second save');
    expect(await recover(workshop)).toMatchObject({ setAside: ['program/a.png'] });
    expect(readFileSync(at('program/a.png'), 'utf8')).toBe('second save');
    const hash = createHash('sha256').update('first save').digest('hex');
    expect(readFileSync(at(`backup/satchel/objects/${hash.slice(0, 2)}/${hash}`), 'utf8')).toBe('first save');
    expect(left(at('program'))).toEqual([]);
  });
});
