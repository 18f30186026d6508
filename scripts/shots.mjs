// Makes docs/screenshots anew from the demo data: npm run shots
import { TSX, build, findChromium, freePort, install, installTestPrograms, makeDemo, run, serve } from './lib.mjs';

install();
installTestPrograms();
makeDemo();
build();
const { url } = await serve({ demo: true, port: await freePort(4670) });
run(process.execPath, [TSX, 'scripts/shots.ts'], { env: { ...process.env, SATCHEL_URL: url, CHROMIUM: findChromium() } });
process.exit(0);
