/**
 * Opens an archive and reads it through, as bringing it in does; prints how much memory that took at its peak, in
 * bytes. Started by bench/memory.ts.
 */
import { openAsBlob } from 'node:fs';
import { openPack, sha256 } from '../src/core';

const before = process.memoryUsage().rss;
let most = before;
const look = () => (most = Math.max(most, process.memoryUsage().rss));
const watch = setInterval(look, 20);
const archive = await openAsBlob(process.argv[2] as string);
await openPack(archive, 'large.zip');
await sha256(archive);
clearInterval(watch);
look();
console.log(most - before);
