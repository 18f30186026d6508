/** Makes the demo's files under .satchel/demo, once for each state of the code that makes them. */
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { under, zip } from '../src/demo/files';
import { gullwickCard, gullwickFolders } from '../src/demo/gullwick';
import { SHELF } from '../src/demo/shelf';

const here = path.dirname(fileURLToPath(import.meta.url));
const sources = path.join(here, '../src/demo');
const stamp = createHash('sha256');
for (const file of readdirSync(sources).sort()) stamp.update(file).update(readFileSync(path.join(sources, file)));
const version = stamp.digest('hex');
const goal = path.join(here, '../.satchel/demo');

if (existsSync(path.join(goal, 'version')) && readFileSync(path.join(goal, 'version'), 'utf8') === version) process.exit(0);

const started = Date.now();
const fresh = `${goal}.new`;
rmSync(fresh, { recursive: true, force: true });
mkdirSync(fresh, { recursive: true });
const { program, user } = gullwickFolders();
writeFileSync(path.join(fresh, 'gullwick.zip'), zip({ ...under('program', program), ...under('user', user) }));
writeFileSync(path.join(fresh, 'gullwick.json'), JSON.stringify(gullwickCard, null, 2));
const shelf = SHELF.map(({ file, title, blurb, build }) => {
  const bytes = build();
  writeFileSync(path.join(fresh, file), bytes);
  return { file, title, blurb, size: bytes.length };
});
writeFileSync(path.join(fresh, 'shelf.json'), JSON.stringify(shelf, null, 2));
writeFileSync(path.join(fresh, 'version'), version);
rmSync(goal, { recursive: true, force: true });
renameSync(fresh, goal);
console.log(`The demo's files are made (${((Date.now() - started) / 1000).toFixed(1)} s).`);
