// The app with live reload, for working on it.
import { NEXT, freePort, install, makeDemo, run } from './lib.mjs';

install();
await makeDemo();
process.env.SATCHEL_DEMO ??= '1';
run(process.execPath, [NEXT, 'dev', '-H', '127.0.0.1', '-p', String(await freePort(Number(process.env.PORT ?? 4640)))]);
