// Browser tests over the built app. Further words go to Playwright: npm run e2e -- journey
import { bin, findChromium, install, installTestPrograms, prepare, run } from './lib.mjs';

install();
installTestPrograms();
await prepare();
process.env.CHROMIUM = findChromium();
run(process.execPath, [bin('@playwright/test', 'cli.js'), 'test', ...process.argv.slice(2)]);
