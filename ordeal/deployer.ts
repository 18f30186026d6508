import path from 'node:path';
import { SatchelError, deploy, mindOriginals, recover } from '@/core';
import { DiskFolder } from '@/bridge/disk';
import { lockVault } from '@/bridge/vaultLock';
import { Bench, makePack, type StackItem } from '../tests/support/game';

/*
 * One start of a program that works on a game, to be killed at any moment: deployer.ts ROOT recover|deploy|back
 * [--once] It says `ready` when it begins, and `done` at its end.
 */

const [root = '', what = '', once] = process.argv.slice(2);
const FILES = Array.from({ length: 60 }, (_, i) => `maps/${i % 6}/${i}.map`);
const packs = {
  p: await makePack(
    'p.zip',
    Object.fromEntries(
      [...FILES, 'new/deep/er.map', 'other/x.map'].map((name) => [name, `new ${name} ${'x'.repeat(2000)}`]),
    ),
  ),
};
const bench = new Bench({}, {}, packs);
const at = (name: string) => path.join(root, name);
const workshop = {
  ...bench.workshop(),
  folders: { program: DiskFolder.open(at('program')), user: DiskFolder.open(at('user')) },
  vault: DiskFolder.make(at('backup/satchel')),
  backup: DiskFolder.make(at('backup')),
  now: () => Date.now(),
};
const stack: StackItem[] =
  what === 'deploy' ? [{ pack: 'p' }, { edits: [{ path: ['Graphics', 'Addon'], value: '1' }] }] : [];
/** A lock that a killed one left opens by itself within half a minute; with `--once` nobody waits for that. */
async function take(): Promise<() => Promise<void>> {
  for (const began = Date.now(); ;) {
    try {
      return await lockVault(workshop.vault.root);
    } catch (error) {
      if (
        !(error instanceof SatchelError && error.code === 'vault-locked') ||
        once === '--once' ||
        Date.now() - began > 30_000
      )
        throw error;
      await new Promise((done) => setTimeout(done, 300));
    }
  }
}
const release = await take();
console.log('ready');
await recover(workshop);
if (what !== 'recover') {
  const plan = await bench.plan(stack, workshop);
  await deploy(plan, workshop, { title: what, layers: [], copiesLater: true });
}
await mindOriginals(workshop);
await release();
console.log('done');
