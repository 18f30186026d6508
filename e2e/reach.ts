import { expect, type Page } from '@playwright/test';
import axeCore, { type AxeResults, type RunOptions } from 'axe-core';
import { step } from './support';

/**
 * Looks in CSS pixels: 640 x 400 is 1280 x 800 at 200 %, 320 the width that WCAG 2.2, 1.4.10 asks for. All rules are
 * held against the widest and the narrowest; between them, and in the dark, those whose outcome sizes and colours can
 * change. With `REACH=whole` (twice the time) all rules are held against all sizes in both colours.
 */
const SIZE_RULES = ['scrollable-region-focusable', 'target-size'];
const COLOUR_RULES = ['color-contrast', 'link-in-text-block'];
const SIZES = [
  [1280, 800],
  [1024, 700],
  [640, 400],
  [320, 640],
] as const;
const LOOKS: readonly { theme: 'light' | 'dark'; size: readonly [number, number]; rules?: string[] }[] =
  process.env.REACH === 'whole'
    ? SIZES.flatMap((size) => [
        { theme: 'light' as const, size },
        { theme: 'dark' as const, size },
      ])
    : [
        { theme: 'light', size: SIZES[0] },
        { theme: 'light', size: SIZES[1], rules: SIZE_RULES },
        { theme: 'light', size: SIZES[2], rules: SIZE_RULES },
        { theme: 'light', size: SIZES[3] },
        { theme: 'dark', size: SIZES[0], rules: COLOUR_RULES },
      ];

/**
 * What the checker finds wrong on the page, which has no frames. It is asked on the page itself: the package that hands
 * it to this runner opens a second page for each answer, which takes four times as long.
 */
async function violations(page: Page, rules: readonly string[] | undefined): Promise<string[]> {
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axeCore.source);
  const options: RunOptions = { resultTypes: ['violations'], ...(rules ? { runOnly: [...rules] } : {}) };
  const found = await page.evaluate(async (chosen) => {
    const { axe } = window as unknown as { axe: { run: (on: Document, by: RunOptions) => Promise<AxeResults> } };
    return (await axe.run(document, chosen)).violations;
  }, options);
  return found.map(
    ({ id, impact, nodes }) => `${id} (${impact}): ${nodes.map(({ html }) => html.slice(0, 160)).join(' | ')}`,
  );
}

/** Everything that is folded is opened: what nobody sees is not looked at. */
const unfold = (page: Page) =>
  page.evaluate(() => {
    for (const one of document.querySelectorAll('main details')) one.setAttribute('open', '');
  });

/** What is wider than the page, or out of it at the right, where the page itself would have to be scrolled. */
const sticksOut = (page: Page) =>
  page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);

/** Whether the main action can be seen whole without scrolling, wherever the page is scrolled to. */
const actionInSight = (page: Page) =>
  page.evaluate(() => {
    const action = document.querySelector('.buckle');
    if (!action) return true;
    const { left, right, top, bottom } = action.getBoundingClientRect();
    return left >= 0 && top >= 0 && right <= innerWidth && bottom <= innerHeight;
  });

/** What a person sees or hears that has a path beginning with an id of the app's own; texts of packs and logs apart. */
const idsOnScreen = (page: Page, ids: readonly string[]) =>
  page.evaluate((all) => {
    const inner = new RegExp(`(?:^|[\\s“(,:])(?:${all.join('|')})/`);
    return [...document.querySelectorAll('body *')]
      .filter((one) => !one.closest('pre, code, .log, .readme, script, style, .cm-editor'))
      .flatMap((one) => [
        ...[...one.childNodes]
          .filter(({ nodeType }) => nodeType === Node.TEXT_NODE)
          .map(({ textContent }) => textContent),
        one.getAttribute('title'),
        one.getAttribute('aria-label'),
      ])
      .filter((text): text is string => text !== null && inner.test(text));
  }, ids);

/**
 * Holds what is open now against an accessibility checker (axe-core, every impact) in light and dark and on
 * every window, and against the rules for small windows: nothing but tables scrolls sideways, the main action is in
 * sight. With `ids` of the game's folders, none of them begins a path that is shown. What is wrong is told by `where`,
 * and the test goes on.
 *
 * @param looks `ends`: the widest and the narrowest alone, for views that another game shows, too
 */
export async function reach(
  page: Page,
  where: string,
  ids: readonly string[] = [],
  looks: 'all' | 'ends' = 'all',
): Promise<void> {
  // Colours on their way from light to dark, or into sight, are neither.
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await unfold(page);
  if (ids.length > 0) expect.soft(await idsOnScreen(page, ids), `${where}: the app’s own ids`).toEqual([]);
  for (const { theme, size, rules } of LOOKS) {
    if (looks === 'ends' && rules) continue;
    const [width, height] = size;
    await page.evaluate((name) => document.documentElement.setAttribute('data-bs-theme', name), theme);
    await page.setViewportSize({ width, height });
    const at = `${where}, ${theme}, ${width} x ${height}`;
    expect.soft(await violations(page, rules), at).toEqual([]);
    expect.soft(await sticksOut(page), `${at}: pixels that the page is too wide`).toBeLessThanOrEqual(0);
    expect.soft(await actionInSight(page), `${at}: the main action is in sight`).toBe(true);
  }
  await page.evaluate(() => document.documentElement.setAttribute('data-bs-theme', 'light'));
  await page.setViewportSize({ width: 1280, height: 800 });
}

const STEPS = ['Bring in', 'Place', 'Stack', 'Settings', 'Deploy', 'Check', 'Ledger'];
const OTHERS = ['card', 'set-ups', 'files', 'storage', 'help'];

/** Every step, and every page beside them. */
export async function everyView(
  page: Page,
  where: string,
  ids: readonly string[],
  looks: 'all' | 'ends' = 'all',
): Promise<void> {
  const look = async (name: string) => {
    // While a game is opened there is a title, too.
    await expect(page.locator('#games')).toBeVisible();
    await expect(page.getByRole('main').getByRole('heading', { level: 1 })).toHaveCount(1);
    await reach(page, `${where}: ${name}`, ids, looks);
  };
  for (const name of STEPS) {
    await step(page, name).click();
    await look(name);
  }
  for (const name of OTHERS) {
    // As a link of the app leads there; a page that is loaded anew opens the whole game again.
    await page.evaluate((to) => {
      (window as unknown as { next: { router: { push: (to: string) => void } } }).next.router.push(to);
    }, `/game/${name}`);
    await page.waitForURL(`**/game/${name}`);
    await look(name);
  }
}
