import {
  chmodSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  realpathSync,
  renameSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Failure } from '@/core';
import { askForFolder, usualPlace } from './askFolder';

let top: string;
let game: string;
let backup: string;

/** A server that starts now: its module knows nothing yet. */
async function start(...folders: string[]) {
  vi.resetModules();
  vi.stubEnv('SATCHEL_FOLDERS', JSON.stringify({ folders, backup }));
  return import('./given');
}
/** The code of what goes wrong. */
async function codeOf(work: () => unknown): Promise<string> {
  try {
    await work();
  } catch (error) {
    // Modules are loaded anew for each start, and so is the class of failures.
    return (error as { failure?: Failure }).failure?.code ?? String(error);
  }
  return 'nothing went wrong';
}

beforeEach(() => {
  top = realpathSync(mkdtempSync(path.join(tmpdir(), 'satchel-given-')));
  [game, backup] = [path.join(top, 'my game'), path.join(top, 'originals')];
  mkdirSync(path.join(game, 'data'), { recursive: true });
});
afterEach(() => {
  vi.unstubAllEnvs();
  rmSync(top, { recursive: true, force: true });
});

describe('folders that the player chose', () => {
  it('are there at the next start, until they are taken away', async () => {
    const first = await start();
    expect([...first.givenFolders().keys()]).toEqual([]);
    const note = first.addChosen(game);
    expect(note).toMatchObject({ name: 'my game', path: game, chosen: true });
    expect(first.addChosen(game)).toEqual(note);
    const second = await start();
    expect([...second.givenFolders().values()].map((one) => one.note)).toEqual([note]);
    expect(second.forgetChosen(note.id)).toBe(true);
    expect(second.forgetChosen(note.id)).toBe(false);
    expect([...(await start()).givenFolders().keys()]).toEqual([]);
    // What belongs to the game stays where it is.
    expect(existsSync(note.backup)).toBe(true);
  });

  it('one that the app was started with cannot be taken away', async () => {
    const { givenFolders, forgetChosen } = await start(game);
    const [id = ''] = givenFolders().keys();
    expect(forgetChosen(id)).toBe(false);
    expect(givenFolders().has(id)).toBe(true);
  });

  it('are seen by a second server on the same originals', async () => {
    const one = await start();
    const other = await start();
    const { id } = one.addChosen(game);
    expect(other.givenFolders().has(id)).toBe(true);
    other.forgetChosen(id);
    expect(one.givenFolders().has(id)).toBe(false);
  });

  it('that are away now stay chosen, and open when they are back', async () => {
    const { id } = (await start()).addChosen(game);
    renameSync(game, `${game} away`);
    const { givenFolders } = await start();
    expect(givenFolders().has(id)).toBe(false);
    renameSync(`${game} away`, game);
    expect(givenFolders(true).has(id)).toBe(true);
  });

  it('that are away while the server runs are not taken for taken away', async () => {
    const { addChosen, givenFolders } = await start();
    const { id } = addChosen(game);
    renameSync(game, `${game} away`);
    expect(givenFolders(true).has(id)).toBe(true);
  });

  it('are no others where a link was put in their place', async () => {
    (await start()).addChosen(game);
    const secret = path.join(top, 'nobody’s business');
    mkdirSync(secret);
    renameSync(game, `${game} away`);
    symlinkSync(secret, game);
    expect([...(await start()).givenFolders(true).values()].map(({ note }) => note.path)).toEqual([]);
  });

  it.each([
    ['inside another one', () => path.join(game, 'data'), 'folder-twice'],
    ['around another one', () => top, 'backup-in-game'],
    ['all of the disk', () => '/', 'whole-disk'],
    ['none', () => path.join(top, 'nothing'), 'folder-refused'],
    ['a file', () => path.join(top, 'file'), 'folder-refused'],
    ['where originals lie', () => backup, 'folder-refused'],
    ['a link to one inside another', () => path.join(top, 'link'), 'folder-twice'],
  ])('%s is refused with its own sentence, and nothing is remembered', async (_, which, code) => {
    const given = await start();
    given.addChosen(game);
    writeFileSync(path.join(top, 'file'), '');
    symlinkSync(path.join(game, 'data'), path.join(top, 'link'));
    const before = readFileSync(path.join(backup, 'folders.json'), 'utf8');
    expect(await codeOf(() => given.addChosen(which()))).toBe(code);
    expect(readFileSync(path.join(backup, 'folders.json'), 'utf8')).toBe(before);
  });

  it.each(['', '{', '{"format":2,"folders":[]}', '{"format":1,"folders":["relative"]}', '\u0000'])(
    'a list that cannot be read is set aside, not written over: %j',
    async (text) => {
      mkdirSync(backup);
      writeFileSync(path.join(backup, 'folders.json'), text);
      const { addChosen } = await start();
      addChosen(game);
      const aside = readdirSync(backup).find((name) => name.endsWith('.bad'));
      expect(readFileSync(path.join(backup, aside ?? ''), 'utf8')).toBe(text);
      expect(
        (JSON.parse(readFileSync(path.join(backup, 'folders.json'), 'utf8')) as { folders: string[] }).folders,
      ).toEqual([game]);
    },
  );
});

describe('the folder dialog', () => {
  const dialog = (script: string) => {
    const program = path.join(top, 'dialog.sh');
    writeFileSync(program, `#!/bin/sh\n${script}\n`);
    chmodSync(program, 0o755);
    vi.stubEnv('SATCHEL_DIALOG', program);
  };
  const ask = (signal = new AbortController().signal) => askForFolder(top, signal);

  it('gives what was chosen, without its line end, and is told where to begin', async () => {
    dialog('printf "%s/Größe mit Leerzeichen\\n" "$2"');
    expect(await ask()).toBe(path.join(top, 'Größe mit Leerzeichen'));
  });
  it('gives nothing where the player changes their mind', async () => {
    for (const script of ['exit 1', 'exit 0']) {
      dialog(script);
      expect(await ask()).toBeUndefined();
    }
  });
  it('says why where it cannot be opened', async () => {
    dialog('echo "cannot open display" >&2; exit 255');
    expect(await codeOf(() => ask())).toBe('no-dialog');
    vi.stubEnv('SATCHEL_DIALOG', path.join(top, 'not there'));
    expect(await codeOf(() => ask())).toBe('no-dialog');
    dialog('echo relative/path');
    expect(await codeOf(() => ask())).toBe('no-dialog');
  });
  it('is open once at a time, and closes when the page goes away', async () => {
    dialog('exec sleep 30');
    const stop = new AbortController();
    const first = codeOf(() => ask(stop.signal));
    expect(await codeOf(() => ask())).toBe('dialog-open');
    stop.abort();
    expect(await first).toBe('cancelled');
    dialog('exit 1');
    expect(await ask()).toBeUndefined();
  });
  it('does not hand the app’s key to the program', async () => {
    vi.stubEnv('SATCHEL_SECRET', 'the key');
    dialog('printf "/%s" "$SATCHEL_SECRET"');
    expect(await ask()).toBe('/');
  });
});

describe('the usual places', () => {
  it('are looked at by name: blanks, signs and capitals aside; the home folder where none has it', () => {
    mkdirSync(path.join(top, '.local/share/MyGame'), { recursive: true });
    expect(usualPlace('My Game', top)).toBe(path.join(top, '.local/share/MyGame'));
    mkdirSync(path.join(top, 'Documents/my-game'), { recursive: true });
    expect(usualPlace('My Game', top)).toBe(path.join(top, 'Documents/my-game'));
    for (const name of ['Another', '', '..', '../Documents']) expect(usualPlace(name, top), name).toBe(top);
  });
});
