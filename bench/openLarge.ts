/** Opens an archive and reads one file of it; prints how much memory that took at its peak, in bytes. Started by bench/memory.ts. */
import { openAsBlob } from 'node:fs';
import { openPack } from '../src/core';

const before = process.memoryUsage().rss;
let most = before;
const look = () => (most = Math.max(most, process.memoryUsage().rss));
const watch = setInterval(look, 20);
const pack = await openPack(await openAsBlob(process.argv[2] as string), 'large.zip');
await pack.read(pack.entries[3]?.path as string);
clearInterval(watch);
look();
console.log(most - before);
