// Sets everything up and starts the app. With --demo it opens on the demo game. --folder "<path>", once or more often,
// lets the app read and write exactly these folders; their originals are copied below --backup "<path>".
import { existsSync, statSync } from 'node:fs';
import { homedir } from 'node:os';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { freePort, install, isWithin, prepare, realPath, serve } from './lib.mjs';

let given;
try {
  given = parseArgs({
    options: {
      demo: { type: 'boolean', default: false },
      folder: { type: 'string', multiple: true, default: [] },
      backup: { type: 'string' },
    },
  }).values;
} catch (error) {
  console.error(
    `${error.message}\nUsage: npm start -- [--folder "<path to a game's folder>"]… [--backup "<folder for the originals>"]`,
  );
  process.exit(1);
}
const { demo, folder: wanted, backup } = given;
const isFolder = (one) => existsSync(one) && statSync(one).isDirectory();
const folders = wanted.filter(isFolder);
for (const one of wanted)
  if (!isFolder(one)) {
    console.error(`There is no folder “${one}”. Give the folder that the game is installed in, in quotation marks.`);
    // One of several may lie on a disk that is not there now; the other games go on.
    if (folders.length === 0) process.exit(1);
    console.error('The app starts without it.\n');
  }
const originals = realPath(backup ?? path.join(homedir(), 'Tidy Satchel'));
for (const one of folders)
  if (isWithin(originals, realPath(one))) {
    console.error(
      `The originals cannot go to “${originals}”, inside the game's own folder. Name another place with --backup "<folder>".`,
    );
    process.exit(1);
  }
install();
await prepare();
const { door, child } = await serve({
  demo,
  folders,
  backup: originals,
  port: await freePort(Number(process.env.PORT ?? 4640)),
});
console.log(`\n  Tidy Satchel is running${demo ? ' with the demo game' : ''}:  ${door}`);
console.log(
  `  It may use ${folders.length > 0 ? `${folders.map((one) => `“${one}”`).join(', ')}, ` : ''}the folders that you choose in it, and no other. The address holds a key: do not pass it on.`,
);
console.log('  Stop it with Ctrl+C.\n');
child.once('exit', (code) => process.exit(code ?? 0));
