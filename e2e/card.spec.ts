import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chooseGame, expect, openDemo, test } from './support';

test('a card is exported, changed and imported; a broken one is refused and the old one stays', async ({ page }) => {
  await openDemo(page);
  await chooseGame(page, 'Hedgerow Hall');
  await page.locator('#games').click();
  await page.getByRole('link', { name: 'How Hedgerow Hall works…' }).click();
  const waiting = page.waitForEvent('download');
  await page.getByText('As a file, to pass on or to take in').click();
  await page.getByRole('button', { name: 'Export' }).click();
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'satchel-card-')), 'hedgerow.card.json');
  await (await waiting).saveAs(file);
  const card = JSON.parse(readFileSync(file, 'utf8')) as {
    title: string;
    roots: unknown[];
    settings: { title: string }[];
  };
  const give = (value: unknown) =>
    page.getByLabel('Import a game card').setInputFiles({
      name: 'card.json',
      mimeType: 'application/json',
      buffer: Buffer.from(typeof value === 'string' ? value : JSON.stringify(value)),
    });
  await give('{ not json');
  await expect(page.getByText('This is not JSON.')).toBeVisible();
  await give({ ...card, roots: [] });
  await expect(page.getByRole('main').getByRole('alert')).toContainText('This game card cannot be used');
  await give({ ...card, title: 'Hedgerow Hall, mine' });
  await expect(page.locator('#games')).toHaveText('Hedgerow Hall, mine');
  await page.reload();
  await expect(page.locator('#games')).toHaveText('Hedgerow Hall, mine');

  // What another card says that this one did not stands first and says where it is from; what went for it can be read,
  // and all of it comes back.
  await give({
    ...card,
    title: 'Hall of a friend',
    settings: card.settings.map((one, i) => (i === 0 ? { ...one, title: 'The friend’s name for it' } : one)),
  });
  const known = page.getByRole('region', { name: 'What the app knows of this game' });
  await expect(known.getByRole('status')).toContainText(
    'From the card of “Hall of a friend”: 1 sentence that the app had not',
  );
  await expect(known.getByRole('status')).toContainText('card.json');
  await expect(known.getByRole('list', { name: 'Settings' }).getByRole('listitem').first()).toContainText(
    'The friend’s name for it. (from the card of “Hall of a friend”)',
  );
  await known.getByText('1 sentence that the app had found or you had told went for it').click();
  await expect(known.getByRole('status')).toContainText(`called ${card.settings[0]?.title ?? ''}`);
  await page.getByRole('button', { name: /^Undo: / }).click();
  await expect(known).not.toContainText('friend');
  await expect(page.locator('#games')).toHaveText('Hedgerow Hall, mine');
});
