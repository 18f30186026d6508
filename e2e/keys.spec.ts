import type { Page } from '@playwright/test';
import { drop, expect, expectStrap, openDemo, packed, step, test } from './support';

/** What the focus is on: its words, and whether a person can see it. */
const focused = (page: Page) =>
  page.evaluate(() => {
    const at = document.activeElement;
    if (!at || at === document.body) return { on: 'nothing', seen: false };
    const { left, right, top, bottom, width, height } = at.getBoundingClientRect();
    const inWindow = right > 0 && bottom > 0 && left < innerWidth && top < innerHeight && width > 0 && height > 0;
    const text = at.getAttribute('aria-label') ?? (at as HTMLElement).innerText;
    return {
      on: `${at.tagName} ${text.slice(0, 60)}`,
      seen: inWindow && at.checkVisibility({ visibilityProperty: true }),
    };
  });

/** Presses a key; the focus must be on something in sight at once, and still when the work is done. */
async function key(page: Page, name: string): Promise<string> {
  await page.keyboard.press(name);
  // Between the end of the page and its beginning lie the browser's own controls.
  if (name === 'Tab' && (await focused(page)).on === 'nothing') await page.keyboard.press(name);
  for (const when of ['at once', 'when it is done']) {
    // React draws and the focus is mended before the next frame is painted.
    await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
    if (when === 'when it is done') await expect(page.getByRole('status', { name: 'Work under way' })).toHaveCount(0);
    const { on, seen } = await focused(page);
    expect(seen, `after ${name}, ${when}, the focus is on ${on}`).toBe(true);
  }
  return (await focused(page)).on;
}

/** Presses Tab until the focus is on what is looked for. */
async function tabTo(page: Page, what: RegExp): Promise<void> {
  for (let presses = 0; presses < 150; presses++) if (what.test(await key(page, 'Tab'))) return;
  throw new Error(`Tab never reached ${String(what)}`);
}

const pressOn = async (page: Page, what: RegExp, how = 'Enter'): Promise<string> => {
  await tabTo(page, what);
  return key(page, how);
};

test('the whole job by keyboard alone, and the focus is never lost', async ({ page }) => {
  await openDemo(page);
  // The first press of Tab offers the way past head and steps.
  expect(await key(page, 'Tab')).toContain('Skip to the work');
  await key(page, 'Enter');
  await pressOn(page, /BUTTON Take Weathered Quay/);
  await expect(page.getByRole('heading', { name: 'Weathered Quay 1.2', level: 1 })).toBeVisible();
  await pressOn(page, /BUTTON Take Storm Paint/);
  await expect(page.getByRole('heading', { name: 'Storm Paint', level: 1 })).toBeVisible();

  await pressOn(page, /^A Stack/);
  await expect(page).toHaveTitle('Stack · Gullwick Ferries · Tidy Satchel');
  // A pack that is moved to the end keeps the focus on the arrow that moved it.
  expect(await pressOn(page, /Move Storm Paint down/)).toContain('Move Storm Paint down');
  expect(await key(page, 'Enter')).toContain('Move Storm Paint down');
  await pressOn(page, /Use Storm Paint/, 'Space');
  await key(page, 'Space');
  // Asking, and thinking better of it.
  await pressOn(page, /Take out Storm Paint/);
  await key(page, 'Escape');
  await expect(page.getByText('Take it out?')).toHaveCount(0);
  // Escape closes the sheet of a pack.
  await pressOn(page, /^BUTTON Storm Paint/);
  await expect(page).toHaveURL(/pack=/);
  await key(page, 'Escape');
  await expect(page).not.toHaveURL(/pack=/);

  await pressOn(page, /^A Settings/);
  await pressOn(page, /BUTTON Turn it on/, 'Space');
  await expect(page.getByText('will be on after the next deployment')).toBeVisible();
  await pressOn(page, /^A Deploy/);
  await pressOn(page, /^BUTTON Deploy$/);
  await expect(page.getByText(/(\d+) of \1 landed/)).toBeVisible();
  expect((await focused(page)).seen).toBe(true);
  await expect(page.getByRole('status', { name: 'What was done' })).toContainText('landed');
  await pressOn(page, /^A Check/);
  await pressOn(page, /BUTTON Trial run/);
  await expect(page.getByRole('heading', { level: 1, name: /loaded/ })).toBeVisible();
  await pressOn(page, /^A Ledger/);
  await pressOn(page, /Put everything back…/);
  await pressOn(page, /Put everything back now/);
  await expectStrap(page, { packs: 0, originals: 0, changes: await changes(page) });
  expect((await focused(page)).seen).toBe(true);
});

/** What waits now; the number itself is other tests' matter. */
const changes = async (page: Page): Promise<number> => {
  await expect(page.getByText('The game’s folders hold nothing that came from a pack.')).toBeVisible();
  const said = await page.getByRole('contentinfo', { name: 'In the game folder now' }).innerText();
  return Number(/([\d,]+)\s*changes? waiting/.exec(said)?.[1]?.replaceAll(',', ''));
};

test('a tour of six sentences, left at any time, and help that can be searched', async ({ page }) => {
  await openDemo(page);
  await pressOn(page, /Take the tour/);
  const tour = page.getByRole('region', { name: /^Tour/ });
  for (const [i, says] of ['Bring in', 'Place', 'Settings', 'Deploy', 'Check', 'Ledger'].entries()) {
    await expect(tour).toHaveAccessibleName(`Tour, ${i + 1} of 6`);
    await expect(tour).toContainText(says);
    expect((await focused(page)).on).toMatch(i === 5 ? /Done/ : /Next/);
    await key(page, 'Enter');
  }
  await expect(tour).toHaveCount(0);
  // Back to where it was begun.
  expect((await focused(page)).on).toContain('Take the tour');
  await key(page, 'Enter');
  await key(page, 'Escape');
  await expect(tour).toHaveCount(0);
  expect((await focused(page)).on).toContain('Take the tour');
  await pressOn(page, /^A Help/);
  await expect(page).toHaveTitle('Help · Gullwick Ferries · Tidy Satchel');
  await page.getByRole('searchbox', { name: 'Search the help' }).fill('halves');
  await expect(page.getByRole('main').getByRole('heading', { level: 2 })).toHaveText(['Check']);
  await expect(page.getByRole('img', { name: 'Check in the demo game' })).toHaveJSProperty('complete', true);
  await page.getByRole('searchbox', { name: 'Search the help' }).fill('no such thing');
  await expect(page.getByText('The help says nothing of this.')).toBeVisible();
});

test('questions, dialogs and the text editor by keyboard', async ({ page }) => {
  await openDemo(page);
  await drop(page, 'lamp.zip', packed({ 'Lamp/textures/lamp.png': 'x', 'Lamp/readme.txt': 'A lamp.' }));
  await expect(page.getByRole('heading', { name: 'Lamp', level: 1 })).toBeVisible();
  await pressOn(page, /^BUTTON Changes/);
  await expect(page.getByRole('dialog')).toBeVisible();
  // The focus stays in the dialog, and goes back to what opened it.
  for (let presses = 0; presses < 6; presses++) {
    await key(page, 'Tab');
    expect(await page.evaluate(() => document.activeElement?.closest('[role="dialog"]') !== null)).toBe(true);
  }
  await key(page, 'Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  expect((await focused(page)).on).toContain('Changes');
  // The games menu by arrows.
  await page.locator('#games').focus();
  await key(page, 'Enter');
  await key(page, 'ArrowDown');
  await key(page, 'Escape');
  expect((await focused(page)).on).toContain('Gullwick Ferries');

  await step(page, 'Settings').click();
  await pressOn(page, /^BUTTON As text/);
  const editor = page.getByRole('textbox', { name: /^Text of / });
  await editor.focus();
  await key(page, 'Tab');
  await expect(editor).not.toBeFocused();
});
