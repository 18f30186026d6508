import { chmodSync, existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { WAIT } from '../../tests/support/system';
import { temporaryFolder } from '../../tests/support/tools';
import { TITLES, askForFolder, usualPlace } from './askFolder';

/** Programs that stand in for the dialogs of desktops: they write down what they were given, and answer. */
function programs(made: Record<string, string>) {
  const bin = temporaryFolder();
  for (const [name, answer] of Object.entries(made)) {
    writeFileSync(
      path.join(bin, name),
      `#!/bin/sh\nfor one in "$@"; do printf '%s\\n' "$one"; done > '${bin}/given'\nprintf '%s' "[$SATCHEL_SECRET]" > '${bin}/secret'\n${answer}\n`,
    );
    chmodSync(path.join(bin, name), 0o755);
  }
  vi.stubEnv('PATH', `relative:/no/such/folder:${bin}`);
  return {
    bin,
    given: () => readFileSync(path.join(bin, 'given'), 'utf8').trimEnd().split('\n'),
    secret: () => readFileSync(path.join(bin, 'secret'), 'utf8'),
  };
}
const never = new AbortController().signal;

describe.skipIf(process.platform === 'win32')('the folder dialog of this computer', () => {
  beforeEach(() => {
    for (const [name, value] of Object.entries({
      SATCHEL_DIALOG: '',
      SATCHEL_SECRET: 'key',
      DISPLAY: ':99',
      WAYLAND_DISPLAY: '',
      DBUS_SESSION_BUS_ADDRESS: '',
    }))
      vi.stubEnv(name, value);
  });
  afterEach(() => void vi.unstubAllEnvs());

  // What each takes: zenity(1), kdialog --help.
  it.each([
    ['zenity', ['--file-selection', '--directory', '--title=Choose it', '--filename=/home/']],
    ['kdialog', ['--title', 'Choose it', '--getexistingdirectory', '/home']],
  ])('by %s', async (name, given) => {
    const of = programs({ [name]: `printf '/games/Lantern Row\\n'` });
    expect(await askForFolder('/home', never, 'Choose it')).toBe('/games/Lantern Row');
    expect([of.given(), of.secret()]).toEqual([given, '[]']);
  });

  it('of two of them by the first; by neither where there is no screen, or one may not be run', async () => {
    const of = programs({ zenity: `printf '/one'`, kdialog: `printf '/two'` });
    expect(await askForFolder('/home', never)).toBe('/one');
    expect(of.given()[2]).toBe(`--title=${TITLES.game}`);
    chmodSync(path.join(of.bin, 'zenity'), 0o644);
    expect(await askForFolder('/home', never)).toBe('/two');
    vi.stubEnv('DISPLAY', '');
    await expect(askForFolder('/home', never)).rejects.toMatchObject({
      code: 'no-dialog',
      failure: { details: { why: 'none of its programs for that was found' } },
    });
    vi.stubEnv('WAYLAND_DISPLAY', 'wayland-0');
    expect(await askForFolder('/home', never)).toBe('/two');
  });

  it('by another program that is named', async () => {
    const of = programs({ mine: `printf '/three\\r\\n\\n'`, zenity: `printf '/one'` });
    vi.stubEnv('SATCHEL_DIALOG', path.join(of.bin, 'mine'));
    expect(await askForFolder('/home', never, 'Choose it')).toBe('/three');
    expect(of.given()).toEqual(['Choose it', '/home']);
  });

  // The other systems' programs are given as there, and cannot be run here.
  it.each([
    ['win32', 'powershell.exe'],
    ['darwin', '/usr/bin/osascript'],
  ] as const)('on %s by its own', async (platform, program) => {
    const real = process.platform;
    const of = programs({ 'powershell.exe': `printf '%s' "/games/$SATCHEL_TITLE in $SATCHEL_NEAR"` });
    Object.defineProperty(process, 'platform', { value: platform });
    try {
      const asked = askForFolder('/home', never, 'Choose it');
      if (platform === 'darwin')
        await expect(asked).rejects.toMatchObject({
          code: 'no-dialog',
          message: expect.stringContaining(program) as string,
        });
      else {
        expect(await asked).toBe('/games/Choose it in /home');
        const [profile, one, how, script = ''] = of.given();
        expect([profile, one, how]).toEqual(['-NoProfile', '-STA', '-EncodedCommand']);
        const read = Buffer.from(script, 'base64').toString('utf16le');
        expect(read).toContain('FolderBrowserDialog');
        // Titles and folders are no part of the script.
        expect(read).not.toContain('Choose it');
      }
    } finally {
      Object.defineProperty(process, 'platform', { value: real });
    }
  });

  it.each([
    ['exit 1', undefined],
    ['exit 0', undefined],
    [`printf '\\n'; exit 1`, undefined],
    [`echo 'no screen' >&2; echo more >&2; exit 5`, 'no screen'],
    ['exit 5', 'it ended with 5'],
    [`kill -9 $$`, 'it ended with a signal'],
    [`printf 'relative'`, 'it ended with 0'],
    [`printf '/games'; exit 1`, 'it ended with 1'],
    [`printf '%0300d' 7 >&2; exit 5`, `${'0'.repeat(200)}`],
  ])('one that ends with “%s”', async (answer, why) => {
    programs({ zenity: answer });
    const asked = askForFolder('/home', never);
    if (why === undefined) expect(await asked).toBeUndefined();
    else
      await expect(asked).rejects.toMatchObject({
        code: 'no-dialog',
        failure: { details: { why } },
      });
  });

  it('one at a time, and again afterwards', async () => {
    programs({ zenity: `/bin/sleep 0.3; printf '/one'` });
    const first = askForFolder('/home', never);
    await expect(askForFolder('/home', never)).rejects.toMatchObject({ code: 'dialog-open' });
    expect(await first).toBe('/one');
    expect(await askForFolder('/home', never)).toBe('/one');
  });

  it('ends where nobody waits for it any more', async () => {
    const { bin } = programs({ zenity: `/bin/sleep 5; : > "$0.late"` });
    const stop = new AbortController();
    const asked = askForFolder('/home', stop.signal);
    await vi.waitFor(() => expect(existsSync(path.join(bin, 'given'))).toBe(true), WAIT);
    stop.abort();
    await expect(asked).rejects.toMatchObject({ code: 'cancelled' });
    expect(existsSync(path.join(bin, 'zenity.late'))).toBe(false);
  });

  it('one that cannot be started says why', async () => {
    vi.stubEnv('SATCHEL_DIALOG', '/no/such/program');
    await expect(askForFolder('/home', never)).rejects.toMatchObject({
      code: 'no-dialog',
      failure: { details: { why: expect.stringContaining('ENOENT') as string } },
      cause: { code: 'ENOENT' },
    });
  });
});

describe('the usual places', () => {
  it('the first of them that has a folder of that name, however it is written', () => {
    const home = temporaryFolder();
    const make = (...names: string[]) => mkdirSync(path.join(home, ...names), { recursive: true });
    expect(usualPlace('Lantern Row', home)).toBe(home);
    make('.local/share', 'lantern_row');
    expect(usualPlace('Lantern Row', home)).toBe(path.join(home, '.local/share/lantern_row'));
    make('Saved Games', 'LanternRow');
    make('Saved Games', 'Lantern');
    expect(usualPlace('Lantern Row', home)).toBe(path.join(home, 'Saved Games/LanternRow'));
    make('Documents');
    writeFileSync(path.join(home, 'Documents/Lantern Row'), 'a file');
    expect(usualPlace('lantern-row!', home)).toBe(path.join(home, 'Saved Games/LanternRow'));
    make('Documents', 'Lantern Row 2');
    expect(usualPlace('Lantern Row 2', home)).toBe(path.join(home, 'Documents/Lantern Row 2'));
    // Composed or not (Unicode, NFC).
    make('.config', 'Küche');
    expect(usualPlace('Küche', home)).toBe(path.join(home, '.config', 'Küche'));
    make('Documents', '---');
    for (const none of ['', '---', '!']) expect(usualPlace(none, home)).toBe(home);
  });
});
