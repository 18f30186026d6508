/** One picture of each main view, from the demo data. Started by scripts/shots.mjs. */
import { mkdirSync } from 'node:fs';
import { chromium, type Page } from '@playwright/test';

const FOLDER = 'docs/screenshots';
mkdirSync(FOLDER, { recursive: true });
const browser = await chromium.launch({ executablePath: process.env.CHROMIUM as string, args: ['--no-sandbox', '--disable-background-networking'] });
const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce', locale: 'en-GB' })).newPage();
const shot = async (name: string) => {
  await page.mouse.move(640, 4);
  await page.waitForTimeout(700);
  await page.screenshot({ path: `${FOLDER}/${name}.png` });
};
const step = (name: string) => page.getByRole('navigation', { name: 'Steps' }).getByRole('link', { name: new RegExp(`^${name}`) }).click();
const take = async (title: string) => {
  await page.getByRole('button', { name: `Take ${title}` }).click();
  await page.getByRole('heading', { name: title, level: 1 }).waitFor({ timeout: 60_000 });
};
const deploy = async (on: Page) => {
  await step('Deploy');
  await on.getByRole('main').getByRole('button', { name: 'Deploy', exact: true }).click();
  await on.getByText(/ landed$/).waitFor();
};

await page.goto(process.env.SATCHEL_URL as string);
await page.getByRole('heading', { name: 'On the download shelf' }).waitFor();
await shot('start');
await take('Evening Harbour 2');
await take('Painted Boats');
await take('Weathered Quay 1.2');
await shot('bring-in');
await step('Place');
await page.getByRole('button', { name: 'assets' }).click();
await page.getByRole('button', { name: 'textures', exact: true }).click();
await page.getByRole('button', { name: 'quay', exact: true }).click();
await shot('place');
await step('Stack');
await shot('stack');
await step('Settings');
await shot('settings');
await page.getByRole('button', { name: 'Turn it on' }).click();
await page.getByText('will be on after the next deployment').waitFor();
await step('Deploy');
await shot('deploy');
await deploy(page);
await step('Check');
await page.getByRole('main').getByRole('button', { name: 'Trial run' }).click();
await page.getByText(/\d+ of \d+ loaded/).waitFor();
await shot('check');
await step('Ledger');
await page.getByRole('button', { name: 'Put everything back…' }).click();
await shot('ledger');
await page.getByRole('button', { name: 'Dark colours' }).click();
await step('Place');
await shot('place-dark');
await browser.close();
