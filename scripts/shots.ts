/** One picture of each main view, from the demo data. Started by scripts/shots.mjs. */
import { mkdirSync, readFileSync } from 'node:fs';
import { chromium, type Page } from '@playwright/test';

const FOLDER = 'docs/screenshots';
for (const folder of [FOLDER, 'public']) mkdirSync(folder, { recursive: true });
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM as string,
  args: ['--no-sandbox', '--disable-background-networking'],
});
const page = await (
  await browser.newContext({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce', locale: 'en-GB' })
).newPage();
/** The app's own drawing as pictures of fixed sizes, which some systems want for a window of its own. */
const drawIcons = async () => {
  const [on, drawing] = [await browser.newPage(), readFileSync('src/app/icon.svg').toString('base64')];
  for (const [name, wide, part] of [
    ['icon-192', 192, 1],
    ['icon-512', 512, 1],
    // A mask may take all that lies outside a circle of four fifths.
    ['icon-whole-512', 512, 0.56],
  ] as const) {
    await on.setViewportSize({ width: wide, height: wide });
    const ground = part < 1 ? '#f1eee7' : 'transparent';
    await on.setContent(
      `<body style="margin:0;background:${ground};display:grid;place-items:center;height:100vh">` +
        `<img width="${wide * part}" height="${wide * part}" src="data:image/svg+xml;base64,${drawing}">`,
    );
    await on.screenshot({ path: `public/${name}.png`, omitBackground: true });
  }
  await on.close();
};
await drawIcons();

const shot = async (name: string) => {
  await page.mouse.move(640, 4);
  await page.waitForTimeout(700);
  await page.screenshot({ path: `${FOLDER}/${name}.png` });
};
const step = (name: string) =>
  page
    .getByRole('navigation', { name: 'Steps' })
    .getByRole('link', { name: new RegExp(`^${name}`) })
    .click();
/** Opens a folder of a tree that is not open yet. */
const unfold = async (tree: string, folder: string) => {
  const twig = page
    .getByRole('table', { name: tree })
    .getByRole('button', { name: new RegExp(`^${folder}(?: \\d|$)`) });
  if ((await twig.getAttribute('aria-expanded')) === 'false') await twig.click();
};
const take = async (title: string) => {
  await page.getByRole('button', { name: `Take ${title}` }).click();
  await page.getByRole('heading', { name: title, level: 1 }).waitFor({ timeout: 60_000 });
};
const deploy = async (on: Page) => {
  await step('Deploy');
  await on.getByRole('main').getByRole('button', { name: 'Deploy', exact: true }).click();
  await on.getByText(/\d landed$/).waitFor();
};

await page.goto(process.env.SATCHEL_URL as string);
await page.getByRole('heading', { name: 'On the download shelf' }).waitFor();
await shot('start');
await take('Evening Harbour 2');
await take('Painted Boats');
await take('Weathered Quay 1.2');
await shot('bring-in');
await step('Place');
await page.getByText('16 in place of its own').waitFor();
await shot('place');
await page.getByRole('button', { name: 'File by file' }).click();
await unfold('Where each file goes', 'quay');
await shot('place-files');
await step('Bring in');
await take('Warm Words');
await step('Bring in');
await take('Skippers Slang');
await step('Stack');
for (const name of ['text', 'textures', 'quay']) await unfold('Overlaps', name);
await shot('stack');
await page.getByRole('button', { name: 'lamp.png' }).click();
await page.getByRole('img', { name: 'Evening Harbour 2' }).waitFor();
await shot('stack-file');
await page
  .getByRole('button', { name: /^Overlaps/ })
  .first()
  .click();
await page.getByRole('button', { name: 'harbour.lang' }).click();
await page.getByRole('button', { name: 'Merge what they change' }).click();
await page.getByText('wants a decision').waitFor();
await shot('merge');
await page.getByRole('radio', { name: /Warm Words/ }).click();
await page.getByText('What it changes in the game’s own file').waitFor();
await step('Settings');
await shot('settings');
await page.getByRole('button', { name: 'As text', exact: true }).click();
await page.getByRole('textbox', { name: 'Text of Game settings' }).waitFor();
await shot('settings-text');
await page.getByRole('button', { name: 'Turn it on' }).click();
await page.getByText('will be on after the next deployment').waitFor();
await step('Deploy');
await shot('deploy');
await deploy(page);
const trial = async () => {
  await step('Check');
  const button = page.getByRole('main').getByRole('button', { name: 'Trial run', exact: true });
  await button.click();
  await page.getByText('What the game wrote into its log').waitFor();
  await page.getByRole('heading', { name: /\d+ of \d+ loaded/ }).waitFor();
};
await trial();
await step('Bring in');
await take('Rope Works');
await step('Settings');
await page.getByRole('button', { name: 'Add it to the list' }).click();
await page.getByText('is not in the list').waitFor({ state: 'detached' });
await deploy(page);
await trial();
await shot('check');
await page.getByRole('button', { name: /Put a copy of/ }).click();
await page.waitForURL('**/deploy');
await deploy(page);
await trial();
await page.getByText('Before and after: ').click();
await page
  .getByRole('region', { name: 'Since the start before' })
  .evaluate((region) => region.scrollIntoView({ block: 'start' }));
await page.mouse.wheel(0, -90);
await page.waitForTimeout(500);
await shot('check-runs');
await page.getByRole('link', { name: 'Set-ups' }).click();
await page.getByLabel('Name of the set-up').fill('Before the ropes');
await page.getByLabel('Which state').selectOption({ index: 3 });
await page.getByRole('button', { name: 'Keep it under this name' }).click();
await page.getByRole('button', { name: 'Show what it would do' }).click();
await page.getByRole('button', { name: /^Take “Before/ }).waitFor();
await shot('set-ups');
await step('Ledger');
await page.getByRole('button', { name: 'Put everything back…' }).click();
await shot('ledger');
await page.getByRole('link', { name: 'What is in the game now' }).click();
await page.getByLabel('Find a file').fill('quay');
await page.getByRole('table', { name: 'Files of the game' }).getByRole('button').first().click();
await page.getByRole('region', { name: 'This file' }).waitFor();
await shot('in-game');
await page.getByRole('button', { name: 'Dark colours' }).click();
await step('Place');
await page.getByRole('button', { name: 'Weathered Quay 1.2' }).click();
await page.getByText('16 in place of its own').waitFor();
await shot('place-dark');
await page.getByRole('button', { name: 'Light colours' }).click();
await page.locator('#games').click();
await page.getByRole('button', { name: 'Crumbleby Bakery in Tinplate' }).click();
await step('Bring in');
await take('Sugar Buns');
await step('Place');
await page.getByText('you do not have that one').waitFor();
await shot('question');

// A game of the player's own, on the disk.
await page.goto(process.env.SATCHEL_OWN as string);
await page.getByRole('button', { name: /^Use / }).click();
await page.getByRole('button', { name: 'Looks right' }).click();
await page.getByRole('button', { name: 'Choose the downloads folder…' }).click();
await page.getByRole('button', { name: 'Take chestnut wheel 1.1.zip' }).click();
await page.getByRole('region', { name: 'Step by step' }).waitFor();
await shot('own-game');
await page.locator('#games').click();
await page.getByRole('link', { name: /^How Old Mill works/ }).click();
await page.getByLabel('Tell the app something more').selectOption({ label: 'Files of a kind go into a folder' });
await page.getByLabel('names', { exact: true }).fill('*.wav');
await page.getByLabel('a folder', { exact: true }).fill('Program folder/sounds');
await page.getByRole('button', { name: 'So it is', exact: true }).first().waitFor();
await shot('card');
await browser.close();
