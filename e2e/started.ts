import { spawn, type ChildProcess } from 'node:child_process';
import {
  chmodSync,
  lstatSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  readlinkSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, type Page } from '@playwright/test';
import { ended } from './support';

/** The app started with a folder, as a player starts it. */
export class Started {
  door = '';
  private child: ChildProcess | undefined;
  /**
   * @param folder given at the start; without one the player chooses in the app
   * @param env besides this process's own
   */
  constructor(
    readonly folder: string | undefined,
    readonly backup: string,
    readonly port: number,
    private readonly env: Record<string, string> = {},
  ) {}

  async start(): Promise<this> {
    const child = spawn(
      process.execPath,
      ['scripts/start.mjs', ...(this.folder === undefined ? [] : ['--folder', this.folder]), '--backup', this.backup],
      {
        env: { ...process.env, ...this.env, PORT: String(this.port) },
        detached: true,
        stdio: ['ignore', 'pipe', 'inherit'],
      },
    );
    this.child = child;
    this.door = await new Promise<string>((done, failed) => {
      let said = '';
      child.stdout.on('data', (piece: Buffer) => {
        said += piece.toString();
        const found = /http:\S+key=\S+/.exec(said)?.[0];
        if (found) done(found);
      });
      child.once('exit', () => failed(new Error(`ended: ${said}`)));
    });
    ended.delete(this.origin);
    return this;
  }

  /**
   * The script and the server under it, ended without a word, as when the power goes.
   *
   * @param page closed first, where the test is over: what it still asks for would be an error of the page's
   */
  async kill(page?: Page): Promise<void> {
    await page?.close();
    const { child } = this;
    if (!child?.pid || child.exitCode !== null || child.signalCode !== null) return;
    ended.add(this.origin);
    const exit = new Promise((done) => child.once('exit', done));
    process.kill(-child.pid, 'SIGKILL');
    await exit;
  }

  get origin(): string {
    return new URL(this.door).origin;
  }
}

/** A game on the disk, and every file and folder of it. */
export const makeGame = (): { top: string; game: string; backup: string } => {
  const top = mkdtempSync(path.join(tmpdir(), 'satchel-bridge-'));
  const game = path.join(top, 'my game');
  mkdirSync(path.join(game, 'data', 'maps'), { recursive: true });
  mkdirSync(path.join(game, 'empty folder'));
  writeFileSync(path.join(game, 'data', 'maps', 'one.map'), 'own one');
  writeFileSync(path.join(game, 'data', 'maps', 'two.map'), 'own two');
  writeFileSync(path.join(game, 'settings.ini'), '[Look]\nWide=1\n');
  return { top, game, backup: path.join(top, 'backup') };
};
/** A game of these files on the disk. */
export function ownGame(files: Record<string, string>): { game: string; backup: string } {
  const top = mkdtempSync(path.join(tmpdir(), 'satchel-own-'));
  for (const [file, text] of Object.entries(files)) {
    mkdirSync(path.dirname(path.join(top, 'game', file)), { recursive: true });
    writeFileSync(path.join(top, 'game', file), text);
  }
  return { game: path.join(top, 'game'), backup: path.join(top, 'backup') };
}

/** Every file with its bytes, every folder and link. */
export function treeOf(at: string, from = at): Record<string, string> {
  const found: Record<string, string> = {};
  for (const name of readdirSync(at)) {
    const full = path.join(at, name);
    if (lstatSync(full).isSymbolicLink()) found[path.relative(from, full)] = `link to ${readlinkSync(full)}`;
    else if (statSync(full).isDirectory())
      Object.assign(found, { [`${path.relative(from, full)}/`]: 'folder' }, treeOf(full, from));
    else found[path.relative(from, full)] = readFileSync(full, 'latin1');
  }
  return found;
}

/** Opens the app by the address that it printed and sets the game up. */
export async function setUpGame(page: Page, app: Started, title = 'My own game'): Promise<void> {
  await page.goto(app.door);
  await page.getByLabel('What do you call this game?').fill(title);
  await page.getByRole('button', { name: `Use ${app.folder}` }).click();
  await page.getByRole('button', { name: 'Looks right' }).click();
  await expect(page.getByRole('heading', { name: `Begin with one pack for ${title}` })).toBeVisible();
}

/** A folder dialog for tests: it answers what stands in a file, and without one as somebody who closes it. */
export function makeDialog(top: string): { program: string; answer(folder: string | undefined): void } {
  const [program, file] = [path.join(top, 'dialog.sh'), path.join(top, 'answer.txt')];
  writeFileSync(program, `#!/bin/sh\n[ -f "${file}" ] && cat "${file}" && exit 0\nexit 1\n`);
  chmodSync(program, 0o755);
  return {
    program,
    answer: (folder) => (folder === undefined ? rmSync(file, { force: true }) : writeFileSync(file, `${folder}\n`)),
  };
}
