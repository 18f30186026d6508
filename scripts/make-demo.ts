/** Makes the demo's files under .satchel/demo. */
import { mkdirSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { zipRoots } from '../src/demo/filesByPath';
import { DEMO_GAMES } from '@/demo/demoGames';
import { MISTAKES } from '../src/demo/mistakes';
import { SHELF } from '@/demo/shelf';

const here = path.dirname(fileURLToPath(import.meta.url));
const goal = path.join(here, '../.satchel/demo');

const started = Date.now();
const fresh = `${goal}.new`;
rmSync(fresh, { recursive: true, force: true });
mkdirSync(fresh, { recursive: true });
for (const { card, folders } of DEMO_GAMES) {
  writeFileSync(path.join(fresh, `${card.id}.zip`), zipRoots(folders()));
  writeFileSync(path.join(fresh, `${card.id}.json`), JSON.stringify(card, null, 2));
}
writeFileSync(path.join(fresh, 'games.json'), JSON.stringify(DEMO_GAMES.map(({ card }) => card.id)));
const shelf = SHELF.map(({ game, file, title, blurb, build }) => {
  const bytes = build();
  writeFileSync(path.join(fresh, file), bytes);
  return { game, file, title, blurb, size: bytes.length };
});
writeFileSync(path.join(fresh, 'shelf.json'), JSON.stringify(shelf, null, 2));
writeFileSync(path.join(fresh, 'mistakes.json'), JSON.stringify(MISTAKES, null, 2));
rmSync(goal, { recursive: true, force: true });
renameSync(fresh, goal);
console.log(`The demo's files are made (${((Date.now() - started) / 1000).toFixed(1)} s).`);
