import { appendFileSync, mkdirSync, mkdtempSync, readFileSync, realpathSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { parseTarget } from '@/core';
import { openRealGame } from '../../../tests/support/realSeat';
import { blob, eachInItsBrowser, type Seat } from '../../../tests/support/seat';

const top = mkdtempSync(path.join(realpathSync(tmpdir()), 'satchel-after-'));
afterAll(() => rmSync(top, { recursive: true, force: true }));
eachInItsBrowser();

const INI = 'rally.ini';
const FILES = {
  'rally.exe': 'x',
  [INI]: '[Video]\nfog=1\nskin=dusk\n[Cars]\nList=red,blue\n',
  'cars/red.car': 'red',
  'cars/blue.car': 'blue',
};
const READ_ME =
  'green.car goes to cars. Open rally.ini, look for the line fog=1 and change it to fog=0. ' +
  'Change skin from dusk to midnight. Add green to the end of List in rally.ini.\n';

async function open(name: string) {
  const game = path.join(top, name);
  for (const [file, text] of Object.entries(FILES)) {
    mkdirSync(path.dirname(path.join(game, file)), { recursive: true });
    writeFileSync(path.join(game, file), text);
  }
  const { seat } = await openRealGame(game, path.join(top, `${name} backup`));
  await seat.bringIn(blob({ 'green.car': 'green', 'read me.txt': READ_ME }), 'green.zip');
  return { seat, ini: path.join(game, INI) };
}
const asked = (seat: Seat) =>
  seat.game.proposals.map(({ path: key, value, set }) => `${key.join(' ')} = ${value} ${set}`);
async function putIn(seat: Seat): Promise<void> {
  const edits = seat.game.proposals.map(({ path: key, value }) => ({ path: key, value }));
  await seat.engine.change({ do: 'set edits', file: parseTarget(`game/${INI}`), edits });
}
const WANTED = '[Video]\nfog=0\nskin=midnight\n[Cars]\nList=red,blue,green\n';

describe('what a read-me asks for, once it is so', () => {
  it('is asked for no more, nor what was there before, after it was deployed', async () => {
    const { seat, ini } = await open('one');
    expect(asked(seat)).toHaveLength(3);
    await putIn(seat);
    expect(asked(seat)).toEqual([]);
    await seat.engine.change({ do: 'deploy' });
    expect(readFileSync(ini, 'utf8')).toBe(WANTED);
    expect(asked(seat)).toEqual([]);
    // Another program writes to the file: what the app put in is known by its record still.
    appendFileSync(ini, 'Own=1\n');
    await seat.engine.change({ do: 'look again' });
    expect(asked(seat)).toEqual([]);
  });
});
