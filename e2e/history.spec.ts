import { expect, expectSameBytes, folderBytes, openDemo, step, takeFromShelf, test } from './support';

test('what was decided is undone by keys, by buttons and from the list, over a reload, and no file is touched', async ({
  page,
}) => {
  await openDemo(page);
  const before = await folderBytes(page);
  const undo = page.getByRole('button', { name: /^Undo/ });
  const redo = page.getByRole('button', { name: /^Do again/ });
  await expect(undo).toBeDisabled();
  await takeFromShelf(page, 'Warm Words');
  await takeFromShelf(page, 'Painted Boats');
  await expect(undo).toHaveAccessibleName('Undo: “Painted Boats” brought in');

  await page.getByRole('main').click({ position: { x: 5, y: 5 } });
  await page.keyboard.press('Control+z');
  await expect(undo).toHaveAccessibleName('Undo: “Warm Words” brought in');
  await expect(redo).toHaveAccessibleName('Do again: “Painted Boats” brought in');
  await page.reload();
  await expect(redo).toHaveAccessibleName('Do again: “Painted Boats” brought in');
  await page.keyboard.press('Control+Shift+Z');
  await expect(undo).toHaveAccessibleName('Undo: “Painted Boats” brought in');
  await expect(redo).toBeDisabled();

  // While something is typed, the keys are the field's own.
  await step(page, 'Settings').click();
  const search = page.getByRole('searchbox', { name: 'Find a key' });
  await search.fill('volume');
  await search.press('Control+z');
  await expect(undo).toHaveAccessibleName('Undo: “Painted Boats” brought in');

  await page.getByRole('button', { name: 'Changes', exact: true }).click();
  const dialog = page.getByRole('dialog', { name: 'What you decided' });
  await expect(dialog.getByRole('listitem')).toHaveText([
    /Painted Boats.*as it is now/,
    /Warm Words/,
    /Before the first/,
  ]);
  await dialog.getByRole('button', { name: 'Go back to: Before the first of them' }).click();
  await expect(dialog.getByRole('listitem').last()).toContainText('as it is now');
  await dialog.getByRole('button', { name: 'Close' }).click();
  await expect(undo).toBeDisabled();
  await expect(page.getByRole('contentinfo', { name: 'In the game folder now' })).toContainText('0changes waiting');
  await redo.click();
  await redo.click();
  await expect(redo).toBeDisabled();
  expectSameBytes(await folderBytes(page), before);
});
