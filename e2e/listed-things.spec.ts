import { readFileSync } from 'node:fs';
import path from 'node:path';
import { deploy, drop, expect, packed, putEverythingBack, step, test } from './support';
import { Started, ownGame, setUpGame, treeOf } from './started';

const SHIPS = '<ships>\n  <ship id="tug" cost="1200"/>\n  <ship id="dredger" cost="5400"/>\n</ships>\n';
const CREWS = '{\n  "crews": [\n    { "id": "blue", "hands": 4 }\n  ]\n}\n';
const READ_ME =
  'Place icebreaker in ships, next to tug and dredger. In ships/list.xml insert before </ships>:\n\n' +
  '  <ship id="icebreaker" cost="9800"/>\n\nAdd to crews.json:\n{\n  "id": "white",\n  "hands": 9\n}\n\n' +
  'harbour.rc needs one more line: mount ice.pak\n';

test('things that a game’s files list get one more by one click each, and go again with the pack', async ({ page }) => {
  const { game, backup } = ownGame({
    'Harbour.exe': 'x',
    'ships/list.xml': SHIPS,
    'crews.json': CREWS,
    'harbour.rc': 'mount base.pak\nset rain 0\n',
    ...Object.fromEntries(['tug', 'dredger'].map((ship) => [`ships/${ship}/hull.mesh`, ship])),
  });
  const before = treeOf(game);
  const app = await new Started(game, backup, 4712).start();
  try {
    await setUpGame(page, app, 'Harbour');
    await drop(page, 'Icebreaker.zip', packed({ 'icebreaker/hull.mesh': 'ice', 'readme.txt': READ_ME }));
    await expect(step(page, 'Settings')).toContainText('3');
    await step(page, 'Settings').click();
    const asked = page.getByRole('region', { name: 'What your packs ask for' });
    await expect(asked.getByRole('listitem')).toHaveCount(3);
    const putIn = (what: string) => asked.getByRole('button', { name: `Put in ${what}` }).click();
    await putIn('one more “ship” in “ships”: id icebreaker, cost 9800');
    // Nothing is lost by a reload in the middle.
    await page.reload();
    await expect(asked.getByRole('listitem')).toHaveCount(2);
    await putIn('one more entry in “crews”: id white, hands 9');
    await putIn('the line “mount ice.pak”');
    await expect(asked).toBeHidden();
    await step(page, 'Deploy').click();
    await deploy(page);
    const now = (of: string) => readFileSync(path.join(game, of), 'utf8');
    expect(now('ships/list.xml')).toBe(SHIPS.replace('</ships>', '  <ship id="icebreaker" cost="9800" />\n</ships>'));
    expect(JSON.parse(now('crews.json'))).toEqual({
      crews: [
        { id: 'blue', hands: 4 },
        { id: 'white', hands: 9 },
      ],
    });
    expect(now('harbour.rc')).toBe('mount base.pak\nmount ice.pak\nset rain 0\n');
    expect(now('ships/icebreaker/hull.mesh')).toBe('ice');
    await putEverythingBack(page);
    expect(treeOf(game)).toEqual(before);
  } finally {
    await app.kill(page);
  }
});
