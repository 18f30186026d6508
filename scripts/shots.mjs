// Makes docs/screenshots anew from the demo data: npm run shots
import { TSX, findChromium, freePort, install, installTestPrograms, prepare, run, serve } from './lib.mjs';
import { makeOwnGame } from './ownGame.mjs';

install();
installTestPrograms();
await prepare();
const { url } = await serve({ demo: true, port: await freePort(4700) });
const own = makeOwnGame();
process.env.SATCHEL_DIALOG = own.dialog;
const { door } = await serve({ demo: false, port: await freePort(4704), folders: [own.game], backup: own.backup });
run(process.execPath, [TSX, 'scripts/shots.ts'], {
  env: { ...process.env, SATCHEL_URL: url, SATCHEL_OWN: door, CHROMIUM: findChromium() },
});
process.exit(0);
