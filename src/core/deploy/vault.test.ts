import { describe, expect, it } from 'vitest';
import { LARGE, sha256, type Folder } from '@/core';
import { MemoryFolder } from '../../../tests/support/memoryFolder';
import { keptSchema, planStepSchema, targetSchema } from './model';
import {
  LATE,
  closeJournal,
  keep,
  namedPath,
  objectPath,
  openKept,
  readJournal,
  readJson,
  readKept,
  readLedgerSteps,
  setAside,
  writeBegun,
} from './vault';

const bytes = (text: string) => new TextEncoder().encode(text);
const damage = { code: 'bad-memory' };
const paths = async (folder: Folder, under: string) => {
  const found: string[] = [];
  for await (const { path } of folder.list(under)) found.push(path);
  return found;
};

describe('kept contents', () => {
  it('a small one comes as bytes, a large one as a blob; each only where its bytes fit its name', async () => {
    const vault = new MemoryFolder();
    const small = await keep(vault, bytes('small'));
    expect(await openKept(vault, small)).toEqual(bytes('small'));
    const big = new Uint8Array(LARGE + 1).fill(7);
    const large = await keep(vault, big);
    const opened = await openKept(vault, large);
    expect(opened).toBeInstanceOf(Blob);
    expect(await sha256(opened as Blob)).toBe(await sha256(big));
    await vault.write(objectPath(large.sha256), new Uint8Array(LARGE + 1).fill(8));
    await expect(openKept(vault, large)).rejects.toMatchObject({
      ...damage,
      failure: { details: { what: 'a kept original' } },
    });
  });

  it('a large one that was damaged is read by its second name, where that is whole', async () => {
    const vault = new MemoryFolder();
    const big = new Uint8Array(LARGE + 1).fill(7);
    const large = await keep(vault, big);
    await vault.write(namedPath(large.sha256), big);
    await vault.write(objectPath(large.sha256), new Uint8Array(LARGE + 1).fill(8));
    expect(await sha256((await openKept(vault, large)) as Blob)).toBe(large.sha256);
  });

  it('one that does not fit its name any more makes room, and what was written over it is kept and watched', async () => {
    const vault = new MemoryFolder();
    const kept = await keep(vault, bytes('original'));
    await setAside(vault, kept.sha256);
    expect(await paths(vault, LATE)).toEqual([]);
    expect(await readKept(vault, kept)).toEqual(bytes('original'));
    await vault.write(objectPath(kept.sha256), bytes('late'));
    await setAside(vault, kept.sha256);
    expect(await vault.stat(objectPath(kept.sha256))).toBeUndefined();
    const [late] = await paths(vault, LATE);
    expect(late).toContain(await sha256(bytes('late')));
    expect(await vault.stat(objectPath(await sha256(bytes('late'))))).toBeDefined();
    // Nothing is there: nothing to be set aside.
    await setAside(vault, 'f'.repeat(64));
    expect(await paths(vault, LATE)).toHaveLength(1);
  });
});

describe('the journal', () => {
  const begun = { at: 5, title: 'Deploy', steps: [], folders: [] };

  it('that was cut off is torn; one that is whole says what had begun; closed, it is gone', async () => {
    const vault = new MemoryFolder();
    expect(await readJournal(vault)).toEqual({ phase: 'none' });
    await vault.write('journal.begun.json', bytes('{"at":5,"steps":['));
    expect(await readJournal(vault)).toEqual({ phase: 'torn' });
    await writeBegun(vault, begun);
    expect(await readJournal(vault)).toEqual({ phase: 'begun', ...begun });
    await closeJournal(vault);
    expect(await readJournal(vault)).toEqual({ phase: 'none' });
  });

  it('a folder that cannot be read is no torn journal: nothing is taken back on the ground of it', async () => {
    const vault = new MemoryFolder();
    await writeBegun(vault, begun);
    const refusing: Folder = Object.assign(Object.create(vault) as MemoryFolder, {
      read: async () => Promise.reject(new Error('the disk is gone')),
      readBytes: async () => Promise.reject(new Error('the disk is gone')),
    });
    await expect(readJournal(refusing)).rejects.toThrow('the disk is gone');
  });

  it('that does not read back stops the step that it stands for', async () => {
    const vault = new MemoryFolder();
    const lossy: Folder = Object.assign(Object.create(vault) as MemoryFolder, {
      write: async (path: string) => vault.write(path, bytes('{')),
    });
    await expect(writeBegun(lossy, begun)).rejects.toMatchObject({
      ...damage,
      failure: { details: { what: 'the journal' } },
    });
  });
});

describe('what is read from the vault', () => {
  it('no steps where a deployment has none written', async () => {
    expect(await readLedgerSteps(new MemoryFolder(), 3)).toEqual([]);
  });

  it('what cannot be a target, a hash or a step is refused', async () => {
    expect(targetSchema.safeParse('game/a').success).toBe(true);
    for (const odd of ['game', '/a', 'game/', '//a', '']) expect(targetSchema.safeParse(odd).success, odd).toBe(false);
    const kept = { kind: 'kept', size: 1 };
    expect(keptSchema.safeParse({ ...kept, sha256: 'a'.repeat(64) }).success).toBe(true);
    for (const odd of [`x${'a'.repeat(64)}`, `${'a'.repeat(64)}0`, 'A'.repeat(64), 'a'.repeat(63)])
      expect(keptSchema.safeParse({ ...kept, sha256: odd }).success, odd).toBe(false);
    const step = { action: 'add', target: 'game/a', layer: '', size: 1, reason: '', after: { kind: 'absent' } };
    expect(planStepSchema.safeParse({ ...step, made: { forget: true } }).success).toBe(true);
    expect(planStepSchema.safeParse({ ...step, made: { forget: false } }).success).toBe(false);
  });

  it('damaged JSON says what it is', async () => {
    const vault = new MemoryFolder({ 'x.json': '{' });
    await expect(readJson(vault, 'x.json', targetSchema, 'a backup')).rejects.toMatchObject({
      ...damage,
      failure: { details: { what: expect.stringContaining('a backup: ') as string } },
    });
  });
});
