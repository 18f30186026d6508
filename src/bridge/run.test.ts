import { chmodSync, mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { strToU8, zipSync } from 'fflate';
import { afterAll, describe, expect, it } from 'vitest';
import { answerRun, startRun } from './run';
import { givenFolders } from './given';
import { runSchema, type News, type Run } from './wire';

/** Runs as the server carries them out, on a real folder: what happens when a second one comes. */

const top = mkdtempSync(path.join(tmpdir(), 'satchel-run-'));
const game = path.join(top, 'game');
mkdirSync(game);
for (const name of ['a.txt', 'b.txt']) writeFileSync(path.join(game, name), `own ${name}`);
process.env.SATCHEL_FOLDERS = JSON.stringify({ folders: [game], backup: path.join(top, 'backup') });
afterAll(() => rmSync(top, { recursive: true, force: true }));

const [id, { parts }] = [...givenFolders()][0] as [
  string,
  ReturnType<typeof givenFolders> extends Map<string, infer G> ? G : never,
];
mkdirSync(path.join(parts.vault.root, 'packs'));
writeFileSync(
  path.join(parts.vault.root, 'packs/p.zip'),
  zipSync({ 'a.txt': strToU8('new a'), 'b.txt': strToU8('new b') }),
);

const workplace = { main: id, roots: { game: { folder: id } }, packs: [{ id: 'p', name: 'p.zip' }] };
const recovery = (run: string): Run => runSchema.parse({ ...workplace, run, work: { do: 'recover' } });
async function deployment(run: string): Promise<Run> {
  const steps = await Promise.all(
    ['a.txt', 'b.txt'].map(async (name) => {
      const now = await parts.game.stat(name);
      return {
        action: 'replace',
        target: `game/${name}`,
        reason: '',
        layer: 'p',
        size: 5,
        before: { size: now?.size, modified: now?.modified },
        after: { kind: 'pack', packId: 'p', path: name, size: 5 },
      };
    }),
  );
  return runSchema.parse({
    ...workplace,
    run,
    work: { do: 'deploy', title: 'Deploy', layers: [], plan: { steps, forget: [] } },
  });
}

/** Reads the news of a run until one is as wanted. */
async function listen(response: Response) {
  const reader = (response.body as ReadableStream<Uint8Array>).getReader();
  let rest = '';
  return async (wanted: (news: News) => boolean): Promise<News> => {
    for (;;) {
      const end = rest.indexOf('\n');
      if (end >= 0) {
        const news = JSON.parse(rest.slice(0, end)) as News;
        rest = rest.slice(end + 1);
        if (wanted(news)) return news;
        continue;
      }
      const { done, value } = await reader.read();
      if (done) throw new Error('the run ended without it');
      rest += new TextDecoder().decode(value);
    }
  };
}
const start = (order: Run) => listen(startRun(order, new AbortController().signal));
const isLast = (news: News): boolean => 'entry' in news || 'failure' in news || 'recovered' in news;

describe('a second run', () => {
  it('is refused while one is under way, as often as it is tried, and the first goes on', async () => {
    chmodSync(path.join(game, 'b.txt'), 0o444);
    const first = await start(await deployment('one'));
    await first((news) => 'stuck' in news);
    for (const run of ['two', 'three', 'four'])
      expect(await (await start(recovery(run)))(isLast)).toMatchObject({ failure: { code: 'journal-open' } });
    chmodSync(path.join(game, 'b.txt'), 0o644);
    expect(answerRun('one', 'again')).toBe(true);
    expect(await first(isLast)).toMatchObject({ entry: { landed: 2 } });
    expect(readFileSync(path.join(game, 'b.txt'), 'utf8')).toBe('new b');
    expect(await (await start(recovery('five')))(isLast)).toEqual({ recovered: true });
    expect(readdirSync(path.join(parts.vault.root, 'named'))).toEqual([]);
  });

  it('waits for the one that looks after the originals, which makes way', async () => {
    const mind = runSchema.parse({ ...workplace, run: 'mind', work: { do: 'mind' } });
    const [minds, recovers] = [await start(mind), await start(recovery('six'))];
    expect(await recovers(isLast)).toEqual({ recovered: true });
    // It ended before, or was ended.
    const last = await minds((news) => 'minded' in news || 'failure' in news);
    expect('minded' in last || ('failure' in last && last.failure.code === 'cancelled')).toBe(true);
    expect(await (await start({ ...mind, run: 'mind again' }))((news) => 'minded' in news)).toMatchObject({
      minded: { copiedThrough: 1, mishaps: [] },
    });
    expect(
      readFileSync(
        path.join(top, 'backup', readdirSync(path.join(top, 'backup'))[0] as string, 'data/game/a.txt'),
        'utf8',
      ),
    ).toBe('own a.txt');
  });
});

describe('archives that a deployment does not need', () => {
  it('stay where the page knows them or a set-up beside the originals names them; the others go', async () => {
    const packs = path.join(parts.vault.root, 'packs');
    for (const name of ['known', 'decided', 'nobody']) writeFileSync(path.join(packs, `${name}.zip`), name);
    const setUp = path.join(parts.backup.root, 'set-up');
    mkdirSync(setUp, { recursive: true });
    writeFileSync(path.join(setUp, '00000001.00000000.json'), JSON.stringify({ packs: [{ id: 'decided' }] }));
    writeFileSync(path.join(setUp, '00000002.00000000.json'), 'cut o');
    const order = await deployment('seven');
    order.packs.push({ id: 'known', name: 'known.zip' });
    expect(await (await start(order))(isLast)).toMatchObject({ entry: { landed: 2 } });
    expect(readdirSync(packs).sort()).toEqual(['decided.zip', 'known.zip', 'p.zip']);
  });
});
