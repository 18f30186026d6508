/**
 * Reads a log as the worker does: decoded, folded, traced; prints how much memory that took at its peak, in bytes.
 * Started by bench/log.ts.
 */
import { openAsBlob } from 'node:fs';
import { decodeText, readLongLog, traceMessages } from '../src/core';
import { gullwickCard } from '@/demo/gullwickCard';

const rules = gullwickCard.log?.rules ?? [];
const before = process.memoryUsage().rss;
let most = before;
const look = () => (most = Math.max(most, process.memoryUsage().rss));
const log = await openAsBlob(process.argv[2] as string);
const { text } = decodeText(new Uint8Array(await log.arrayBuffer()));
look();
const reading = await readLongLog(text, rules, { onProgress: look });
look();
traceMessages(reading.messages, {
  card: gullwickCard,
  rules,
  files: [],
  leftOut: [],
  originals: new Map(),
  nameOf: (layer) => layer,
});
look();
console.log(most - before);
