// Browser tests over the built app. Further words go to Playwright: npm run e2e -- journey
import { bin, build, findChromium, install, installTestPrograms, makeDemo, run } from './lib.mjs';

install();
installTestPrograms();
makeDemo();
build();
process.env.CHROMIUM = findChromium();
run(process.execPath, [bin('@playwright/test', 'cli.js'), 'test', ...process.argv.slice(2)]);
