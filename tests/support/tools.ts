import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll } from 'vitest';

/** A temporary folder that is removed when the test file ends. */
export function temporaryFolder(): string {
  const folder = mkdtempSync(path.join(tmpdir(), 'satchel-'));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  return folder;
}

/**
 * Is a program of another maker here? The test set-up installs the Debian packages; elsewhere the check is skipped by
 * name.
 */
export const has = (program: string): boolean =>
  spawnSync(program, ['--help'], { stdio: 'ignore' }).error === undefined;

/** Runs another maker's program and gives what it wrote to standard output; fails the test where it fails. */
export function runTool(program: string, values: string[], options: { cwd?: string; input?: string } = {}): Buffer {
  const { status, stdout, stderr, error } = spawnSync(program, values, {
    maxBuffer: 512 * 1024 * 1024,
    env: { ...process.env, LC_ALL: 'C.UTF-8' },
    ...options,
  });
  if (error || status !== 0) throw new Error(`${program} ${values.join(' ')}: ${error?.message ?? stderr.toString()}`);
  return stdout;
}

export function writeFiles(folder: string, files: Record<string, Uint8Array | string>): void {
  for (const [name, data] of Object.entries(files)) {
    mkdirSync(path.dirname(path.join(folder, name)), { recursive: true });
    writeFileSync(path.join(folder, name), data);
  }
}

/** Every file below a folder by its path with `/`. */
export function readFiles(folder: string): Record<string, Buffer> {
  const found: Record<string, Buffer> = {};
  const walk = (at: string) => {
    for (const name of readdirSync(at).sort()) {
      const full = path.join(at, name);
      if (statSync(full).isDirectory()) walk(full);
      else found[path.relative(folder, full).split(path.sep).join('/')] = readFileSync(full);
    }
  };
  walk(folder);
  return found;
}
