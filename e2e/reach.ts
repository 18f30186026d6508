import { AxeBuilder } from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

/** Windows in CSS pixels: 640 x 400 is 1280 x 800 at 200 %, 320 the width that WCAG 2.2, 1.4.10 asks for. */
const LIGHT = [
  [1280, 800],
  [1024, 700],
  [640, 400],
  [320, 640],
] as const;
const DARK = [[1280, 800]] as const;

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

/**
 * Holds what is open now against an accessibility checker (axe-core, all rules, every impact) in light and dark and on
 * every window, and against the rules for small windows: nothing but tables scrolls sideways, the main action is in
 * sight. What is wrong is collected by `where`.
 */
export async function reach(page: Page, where: string, wrong: string[]): Promise<void> {
  await unfold(page);
  for (const [theme, sizes] of [['light', LIGHT] as const, ['dark', DARK] as const]) {
    await page.evaluate((name) => document.documentElement.setAttribute('data-bs-theme', name), theme);
    for (const [width, height] of sizes) {
      await page.setViewportSize({ width, height });
      const at = `${where}, ${theme}, ${width} x ${height}`;
      const { violations } = await new AxeBuilder({ page }).analyze();
      for (const { id, impact, nodes } of violations)
        wrong.push(`${at}: ${id} (${impact}): ${nodes.map(({ html }) => html.slice(0, 160)).join(' | ')}`);
      if ((await sticksOut(page)) > 0) wrong.push(`${at}: the page is ${await sticksOut(page)} pixels too wide`);
      if (!(await actionInSight(page))) wrong.push(`${at}: the main action is out of sight`);
    }
  }
  await page.evaluate(() => document.documentElement.setAttribute('data-bs-theme', 'light'));
  await page.setViewportSize({ width: 1280, height: 800 });
}

/** Said at the end, each place by itself. */
export const expectReached = (wrong: readonly string[]): void => expect(wrong.join('\n')).toBe('');
