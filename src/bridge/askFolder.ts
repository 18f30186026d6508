import { spawn } from 'node:child_process';
import { accessSync, constants, readdirSync } from 'node:fs';
import { homedir } from 'node:os';
import path from 'node:path';
import { SatchelError } from '@/core';
import { askPortal } from './portal';

/** How this computer asks its user for a folder: a program and what it is given. */
interface Dialog {
  program: string;
  args: string[];
  env?: Record<string, string>;
}

/** What the dialog says above it. */
export const TITLES = {
  game: 'Choose the folder that the game is installed in',
  downloads: 'Choose the folder that your downloads come into',
} as const;
/** More than this no path has, in bytes. */
const LONGEST = 64 * 1024;

const WINDOWS = `
[Console]::OutputEncoding = [Text.Encoding]::UTF8
Add-Type -AssemblyName System.Windows.Forms
$above = New-Object System.Windows.Forms.Form -Property @{ TopMost = $true; ShowInTaskbar = $false; Opacity = 0 }
$dialog = New-Object System.Windows.Forms.FolderBrowserDialog -Property @{ Description = $env:SATCHEL_TITLE; SelectedPath = $env:SATCHEL_NEAR; ShowNewFolderButton = $false }
if ($dialog.ShowDialog($above) -ne 'OK') { exit 1 }
[Console]::Out.Write($dialog.SelectedPath)`;
const MAC = [
  'on run argv',
  'POSIX path of (choose folder with prompt (item 1 of argv) default location (POSIX file (item 2 of argv)))',
  'end run',
];

/** Where a program lies that is called by its name. */
function findProgram(name: string): string | undefined {
  for (const folder of (process.env.PATH ?? '').split(path.delimiter).filter((one) => path.isAbsolute(one))) {
    try {
      accessSync(path.join(folder, name), constants.X_OK);
      return path.join(folder, name);
    } catch {
      // Not in this one.
    }
  }
  return undefined;
}

/**
 * The dialog of this computer; undefined where it has none. `SATCHEL_DIALOG` names another program, which gets the
 * title and a folder.
 */
function dialogOf(near: string, title: string): Dialog | undefined {
  const own = process.env.SATCHEL_DIALOG;
  if (own) return { program: own, args: [title, near] };
  if (process.platform === 'win32')
    return {
      program: 'powershell.exe',
      args: ['-NoProfile', '-STA', '-EncodedCommand', Buffer.from(WINDOWS, 'utf16le').toString('base64')],
      env: { SATCHEL_TITLE: title, SATCHEL_NEAR: near },
    };
  if (process.platform === 'darwin')
    return { program: '/usr/bin/osascript', args: [...MAC.flatMap((line) => ['-e', line]), title, near] };
  if (!process.env.DISPLAY && !process.env.WAYLAND_DISPLAY) return undefined;
  const [zenity, kdialog] = [findProgram('zenity'), findProgram('kdialog')];
  if (zenity)
    return {
      program: zenity,
      args: ['--file-selection', '--directory', `--title=${title}`, `--filename=${near}${path.sep}`],
    };
  return kdialog ? { program: kdialog, args: ['--title', title, '--getexistingdirectory', near] } : undefined;
}

/** Where programs keep what belongs to their user, below the home folder. */
const USUAL = [
  'Documents',
  'Saved Games',
  'AppData/Roaming',
  'AppData/Local',
  'Library/Application Support',
  '.config',
  '.local/share',
];
const bare = (name: string): string =>
  name
    .normalize('NFC')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]/gu, '');

/** The first of the usual places that has a folder of a name, and that folder; the home folder where none has. */
export function usualPlace(name: string, home = homedir()): string {
  for (const below of USUAL) {
    const folder = path.join(home, ...below.split('/'));
    try {
      const found =
        bare(name) === ''
          ? undefined
          : readdirSync(folder, { withFileTypes: true }).find(
              (one) => one.isDirectory() && bare(one.name) === bare(name),
            );
      if (found) return path.join(folder, found.name);
    } catch {
      // This computer has no such place.
    }
  }
  return home;
}

let open = false;

/**
 * Opens this computer's own folder dialog and waits for its user. The page cannot choose: what comes back was chosen by
 * hand.
 *
 * @param near the folder that it begins in
 * @param title what it says above
 * @returns an absolute path; undefined where the user changed their mind
 * @throws SatchelError `no-dialog`, `dialog-open`, `cancelled`
 */
export async function askForFolder(
  near: string,
  signal: AbortSignal,
  title: string = TITLES.game,
): Promise<string | undefined> {
  if (open) throw new SatchelError('dialog-open');
  const dialog = dialogOf(near, title);
  open = true;
  try {
    if (!dialog) return await askPortal(near, title, signal);
    const { code, out, said } = await run(dialog, signal);
    if (signal.aborted) throw new SatchelError('cancelled');
    const chosen = out.replace(/[\r\n]+$/, '');
    if (code === 0 && path.isAbsolute(chosen)) return chosen;
    // All of them end so where the user changes their mind; other ends are failures, and they say why.
    if (chosen === '' && (code === 1 || code === 0)) return undefined;
    throw new SatchelError('no-dialog', {
      why:
        said
          .split(/[\r\n]/)
          .find((line) => line.trim() !== '')
          ?.slice(0, 200) ?? `it ended with ${code ?? 'a signal'}`,
    });
  } finally {
    open = false;
  }
}

function run(
  { program, args, env = {} }: Dialog,
  signal: AbortSignal,
): Promise<{ code: number | null; out: string; said: string }> {
  return new Promise((done, failed) => {
    const child = spawn(program, args, {
      stdio: ['ignore', 'pipe', 'pipe'],
      env: { ...process.env, SATCHEL_SECRET: '', ...env },
      signal,
    });
    let [out, said] = ['', ''];
    child.stdout.setEncoding('utf8').on('data', (piece: string) => (out = (out + piece).slice(0, LONGEST)));
    child.stderr.setEncoding('utf8').on('data', (piece: string) => (said = (said + piece).slice(0, LONGEST)));
    child.once('error', (error) =>
      signal.aborted
        ? done({ code: null, out: '', said: '' })
        : failed(new SatchelError('no-dialog', { why: error.message }, { cause: error })),
    );
    child.once('close', (code) => done({ code, out, said }));
  });
}
