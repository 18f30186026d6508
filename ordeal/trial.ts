import { appendFileSync, lstatSync, readFileSync, readdirSync, readlinkSync } from 'node:fs';
import path from 'node:path';
import { seeded } from '@/demo/random';

/** The seed of this run. */
export const SEED = Number(process.env.ORDEAL_SEED ?? '1');

/** Numbers from 0 up to `below`, the same for the same seed and name. */
export function dice(name: string): (below: number) => number {
  const next = seeded([...name].reduce((sum, char) => (sum * 31 + char.charCodeAt(0)) % 2_147_483_647, SEED));
  return (below) => Math.floor(next() * below);
}

/** What a trial came to. */
export interface Trial {
  name: string;
  tries: number;
  /** Versions of files that nobody has any more. */
  losses: number;
  /** States that were neither as before nor as after. */
  between: number;
  note?: string;
}

/** Puts a line into the table at the end. */
export function report(trial: Trial): void {
  const { ORDEAL_RESULTS: file } = process.env;
  if (file) appendFileSync(file, `${JSON.stringify(trial)}\n`);
  console.log(
    `${trial.name}: ${trial.tries} tries, ${trial.losses} losses, ${trial.between} neither before nor after; ${trial.note ?? 'no note'}`,
  );
}

/** Every file with its bytes, every folder, every link. */
export function treeOf(top: string, at = top): Record<string, string> {
  const found: Record<string, string> = {};
  for (const name of readdirSync(at)) {
    const full = path.join(at, name);
    const stat = lstatSync(full);
    const key = path.relative(top, full);
    if (stat.isSymbolicLink()) found[key] = `link to ${readlinkSync(full)}`;
    else if (stat.isDirectory()) Object.assign(found, { [`${key}/`]: 'folder' }, treeOf(top, full));
    else found[key] = readFileSync(full, 'latin1');
  }
  return found;
}

export const same = (a: Record<string, string>, b: Record<string, string>): boolean => {
  const names = Object.keys(a);
  return names.length === Object.keys(b).length && names.every((name) => a[name] === b[name]);
};
