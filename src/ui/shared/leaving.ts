/** After so long (milliseconds) a way that was set out on leads nowhere. */
const LOST = 10_000;

let goal: { path: string; since: number } | undefined;
/** When a link to the page that is shown was followed: it comes anew, without what is open on it. */
let anew = 0;

/** The player is on the way to another page, which may take a moment to come. */
export function setOut(path: string): void {
  goal = { path, since: Date.now() };
}

/** To be called when a page has come. */
export function arrive(): void {
  goal = undefined;
}

/**
 * Whether the player is on the way to another page. What ends meanwhile on the page that is left must not change the
 * address: that would call the player back.
 */
export const isLeaving = (): boolean =>
  goal !== undefined && goal.path !== window.location.pathname && Date.now() - goal.since < LOST;

/** Whether the page that is shown may be on its way anew. What is opened now is the last word. */
export function isComingAnew(): boolean {
  const isComing = Date.now() - anew < LOST;
  anew = 0;
  return isComing;
}

/** To be called once for the whole page: links that are followed are noted. @returns ends it */
export function noteLinks(): () => void {
  const note = (event: MouseEvent) => {
    const link = event.target instanceof Element ? event.target.closest('a') : null;
    const plain = event.button === 0 && !event.ctrlKey && !event.metaKey && !event.shiftKey && !event.altKey;
    if (!link || !plain || link.target !== '' || link.origin !== window.location.origin) return;
    // Who thinks better of it stays.
    if (link.pathname === window.location.pathname) {
      arrive();
      anew = Date.now();
    } else setOut(link.pathname);
  };
  // Before the link itself is asked.
  document.addEventListener('click', note, true);
  return () => document.removeEventListener('click', note, true);
}
