// A small made-up game of the player's own, with a downloads folder, for pictures: no card, known by its folders alone.
import { execFileSync } from 'node:child_process';
import { chmodSync, mkdirSync, mkdtempSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';

/**
 * @returns the game's folder, one for originals, and a program that answers for the folder dialog with the downloads
 * folder
 */
export function makeOwnGame() {
  const top = mkdtempSync(path.join(tmpdir(), 'satchel-shots-'));
  const put = (file, text) => {
    mkdirSync(path.dirname(path.join(top, file)), { recursive: true });
    writeFileSync(path.join(top, file), text);
  };
  for (const wheel of ['oak', 'elm', 'ash'])
    for (const part of ['wheel.whl', 'wheel.png', 'turn.wav'])
      put(`Old Mill/wheels/${wheel}/${part}`, `${wheel} ${part}`);
  for (const [file, text] of [
    ['mill.exe', 'program'],
    ['sounds/bell.wav', 'bell'],
    ['sounds/stream.wav', 'stream'],
    ['mods/readme.txt', 'Put your mods here, each in a folder of its own.\n'],
    ['mill.ini', '[Mill]\r\nLooseWheels=0\r\n; In turns a minute\r\nSpeed=20\r\n'],
    ['mill.log', '[10:00:01] info Old Mill 1.4\n[10:00:02] info ready\n'],
  ])
    put(`Old Mill/${file}`, text);
  put('chestnut/chestnut/wheel.whl', 'chestnut');
  put('chestnut/chestnut/wheel.png', 'chestnut');
  put('chestnut/chestnut/turn.wav', 'chestnut');
  put(
    'chestnut/readme.txt',
    'Chestnut wheel\n==============\n\nDrag the chestnut folder into wheels.\nSet LooseWheels=1 in mill.ini, or it does not turn.\nClose the game before you do this.\n',
  );
  mkdirSync(path.join(top, 'Downloads'));
  execFileSync('zip', ['-qr', path.join(top, 'Downloads', 'chestnut wheel 1.1.zip'), '.'], {
    cwd: path.join(top, 'chestnut'),
  });
  execFileSync('7z', ['a', '-bso0', '-bsp0', path.join(top, 'Downloads', 'night sounds.7z'), 'wheel.whl'], {
    cwd: path.join(top, 'chestnut/chestnut'),
  });
  put('Downloads/winter scenery.7z.001', 'first part');
  put('Downloads/winter scenery.7z.003', 'third part');
  for (const name of ['chestnut wheel 1.1.zip', 'night sounds.7z', 'winter scenery.7z.001', 'winter scenery.7z.003'])
    utimesSync(path.join(top, 'Downloads', name), new Date(Date.now() - 90_000), new Date(Date.now() - 90_000));
  put('dialog.sh', `#!/bin/sh\necho "${path.join(top, 'Downloads')}"\n`);
  chmodSync(path.join(top, 'dialog.sh'), 0o755);
  return {
    game: path.join(top, 'Old Mill'),
    backup: path.join(top, 'Tidy Satchel'),
    dialog: path.join(top, 'dialog.sh'),
  };
}
