import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, utimesSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it, vi } from 'vitest';
import { coded } from '../../tests/support/system';
import { temporaryFolder } from '../../tests/support/tools';
import { isRunning, sweep, sweepAll, unlinkIfThere, type Parent } from './diskCalls';

function place() {
  const top = temporaryFolder();
  const parent: Parent = { at: (name) => path.join(top, name), close: () => undefined };
  return { top, parent };
}

describe('what an ended process had begun', () => {
  /** No process has it any more. */
  const ended = () => spawnSync('true').pid;
  const HOUR = 3_600;
  const part = (pid: number) => `.satchel-${pid}-7.part`;
  const seconds = (ago: number) => Date.now() / 1000 - ago;

  it.each([
    ['this process, be it old', () => process.pid, 2 * HOUR, false],
    ['an ended one', ended, 0, true],
    ['a running one', () => process.ppid, 0, false],
    ['a running one, nearly an hour ago', () => process.ppid, HOUR - 60, false],
    ['one that bears the number of another', () => process.ppid, HOUR + 60, true],
  ])('of %s', (_, pidOf, ago, goes) => {
    const { top, parent } = place();
    const name = part(pidOf());
    const at = path.join(top, name);
    writeFileSync(at, 'half');
    utimesSync(at, seconds(ago), seconds(ago));
    expect([sweep(parent, name), existsSync(at)]).toEqual([goes, !goes]);
  });

  it('what is not there any more is swept, whoever wrote it', () => {
    expect(sweep(place().parent, part(process.ppid))).toBe(true);
  });

  it('all in a folder, but nothing where something else lies there', () => {
    const { top, parent } = place();
    const folder = path.join(top, 'folder');
    mkdirSync(folder);
    const names = [part(ended()), part(ended()).replace('-7.', '-8.')];
    for (const name of names) writeFileSync(path.join(folder, name), 'half');
    writeFileSync(path.join(folder, 'mine'), 'mine');
    expect([sweepAll(parent, 'folder'), readdirSync(folder).sort()]).toEqual([false, [...names, 'mine'].sort()]);
    unlinkIfThere(path.join(folder, 'mine'));
    writeFileSync(path.join(folder, part(process.pid)), 'half');
    // Each that may go goes.
    expect([sweepAll(parent, 'folder'), readdirSync(folder)]).toEqual([false, [part(process.pid)]]);
    unlinkIfThere(path.join(folder, part(process.pid)));
    expect(sweepAll(parent, 'folder')).toBe(true);
  });

  it('a process is running or not, be it another user’s', () => {
    expect([isRunning(process.pid), isRunning(ended())]).toEqual([true, false]);
    const kill = vi.spyOn(process, 'kill').mockImplementation(() => {
      throw coded('EPERM');
    });
    expect(isRunning(1)).toBe(true);
    kill.mockRestore();
  });
});
