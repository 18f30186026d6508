import { spawnSync } from 'node:child_process';
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import type { Locator, Page } from '@playwright/test';

/** One line of the bench: how long ours took against a named tool in the same run (seconds). */
export interface Line {
  name: string;
  ours: number;
  reference: string;
  theirs: number;
  /** Highest ratio allowed. */
  limit: number;
  /** What the figures count; seconds where left out. */
  unit?: 's' | 'MB' | 'KB';
}

const lines: Line[] = [];

/** Prints a line at once. */
export function report(line: Line): void {
  lines.push(line);
  const ratio = line.ours / line.theirs;
  const unit = line.unit ?? 's';
  console.log(
    `${line.name}: ours ${line.ours.toFixed(2)} ${unit}, ${line.reference} ${line.theirs.toFixed(2)} ${unit}, ratio ${ratio.toFixed(2)}, limit ${line.limit.toFixed(2)}${ratio > line.limit ? '  OVER' : ''}`,
  );
}

/** Ends the process: with 1 where a ratio was over its limit. */
export const finish = (): never => process.exit(lines.some(({ ours, theirs, limit }) => ours / theirs > limit) ? 1 : 0);

setFlagsFromString('--expose-gc');
const collect = runInNewContext('gc') as () => void;

/** Seconds that a piece of work takes. What earlier work left behind is cleared away before the clock starts. */
export async function timed(work: () => Promise<void> | void): Promise<number> {
  collect();
  const start = performance.now();
  await work();
  return (performance.now() - start) / 1000;
}

/** Seconds that another program takes; throws where it fails. */
export function timedTool(command: string, values: string[], cwd: string): number {
  const start = performance.now();
  const { status, error, stderr } = spawnSync(command, values, { cwd, stdio: ['ignore', 'ignore', 'pipe'] });
  if (error || status !== 0) throw new Error(`${command}: ${error?.message ?? stderr.toString()}`);
  return (performance.now() - start) / 1000;
}

/**
 * Seconds from a click to the moment when a text stands in the page, both told by the page itself: the browser driver
 * looks only every half second.
 */
export async function fromClickTo(page: Page, button: Locator, text: string): Promise<number> {
  collect();
  const milliseconds = page.evaluate(
    (awaited) =>
      new Promise<number>((done) => {
        let began = 0;
        document.addEventListener('click', () => (began = performance.now()), { capture: true, once: true });
        new MutationObserver((_changes, observer) => {
          if (!document.body.textContent.includes(awaited)) return;
          observer.disconnect();
          done(performance.now() - began);
        }).observe(document.body, { subtree: true, childList: true, characterData: true });
      }),
    text,
  );
  await button.click();
  return (await milliseconds) / 1000;
}

/** The middle of three measurements, each begun afresh. */
export async function middleOfThree(work: () => Promise<number>): Promise<number> {
  const all = [await work(), await work(), await work()].sort((a, b) => a - b);
  return all[1] as number;
}
