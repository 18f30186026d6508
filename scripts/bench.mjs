// Speed against named tools. Sets up what it needs; prints one line a measurement; ends with 1 where one is over its limit.
import { TSX, build, findChromium, freePort, install, installTestPrograms, makeDemo, run, serve } from './lib.mjs';

install();
installTestPrograms();
makeDemo();
build();
const { url } = await serve({ demo: true, port: await freePort(4660) });
run(process.execPath, [TSX, 'bench/bench.ts'], { env: { ...process.env, SATCHEL_URL: url, CHROMIUM: findChromium() } });
process.exit(0);
