// Sets everything up and starts the app. With --demo it opens on the demo game.
import { build, freePort, install, makeDemo, serve } from './lib.mjs';

const demo = process.argv.includes('--demo');
install();
makeDemo();
build();
const { url, child } = await serve({ demo, port: await freePort(Number(process.env.PORT ?? 4640)) });
console.log(`\n  Tidy Satchel is running${demo ? ' with the demo game' : ''}:  ${url}\n  Stop it with Ctrl+C.\n`);
child.once('exit', (code) => process.exit(code ?? 0));
