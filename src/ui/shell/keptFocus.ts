/** What can be reached with Tab. */
const REACHED = 'a[href], button, input, select, textarea, summary, [tabindex="0"], [contenteditable="true"]';

const inSight = (element: Element): boolean => element.checkVisibility({ visibilityProperty: true });

/** What lies around an element, from the inside out, within the page's main part, its head, or a dialog. */
function around(element: Element): Element[] {
  const found: Element[] = [];
  for (let at = element.parentElement; at && !at.matches('main, body, :has(main)'); at = at.parentElement) {
    found.push(at);
    if (at.getAttribute('role') === 'dialog') break;
  }
  return found;
}

const reached = (within: Element): HTMLElement[] =>
  [...within.querySelectorAll<HTMLElement>(REACHED)].filter((one) => one.tabIndex >= 0 && inSight(one));

/** The view's title, or the view itself where it has none yet. */
function focusView(): void {
  const main = document.querySelector<HTMLElement>('main');
  const goal = main?.querySelector<HTMLElement>('h1') ?? main;
  if (!goal) return;
  goal.tabIndex = -1;
  goal.focus({ preventScroll: goal === main });
}

/**
 * Keeps the focus where a person would look for it. What had it may be gone after a press: a row that was taken out, a
 * form that closed, a view that another one took the place of. Then it goes to what stands in its place in the
 * smallest part of the page that is left of what lay around it, and else to the view's title.
 *
 * @returns ends it
 */
export function keepFocus(): () => void {
  let last: Element | undefined;
  let places: { part: Element; index: number }[] = [];
  const note = ({ target }: FocusEvent) => {
    if (!(target instanceof Element) || target === document.body) return;
    last = target;
    places = around(target).map((part) => ({ part, index: reached(part).indexOf(target as HTMLElement) }));
  };
  const mend = () => {
    const at = document.activeElement;
    // A view's own title came only after the view was given the focus.
    if (at?.tagName === 'MAIN' && at.querySelector('h1')) return focusView();
    if (at !== null && at !== document.body) return;
    if (last === undefined) return;
    // A row that was moved takes its focus off, too.
    if (last.isConnected && inSight(last)) return (last as HTMLElement).focus();
    if (document.querySelector('[role="dialog"]') && !last.closest('[role="dialog"]')) return;
    const goal = places
      .filter(({ part }) => part.isConnected && inSight(part))
      .map(({ part, index }) => reached(part)[Math.max(0, Math.min(index, reached(part).length - 1))])
      .find((one) => one !== undefined);
    if (goal) goal.focus();
    else focusView();
  };
  /** Who presses on bare ground wants the focus nowhere. */
  const forget = () =>
    setTimeout(() => {
      if (document.activeElement === document.body) last = undefined;
    });
  const observer = new MutationObserver(mend);
  observer.observe(document.body, {
    childList: true,
    subtree: true,
    attributes: true,
    attributeFilter: ['class', 'hidden'],
  });
  document.addEventListener('focusin', note);
  document.addEventListener('mousedown', forget);
  return () => {
    observer.disconnect();
    document.removeEventListener('focusin', note);
    document.removeEventListener('mousedown', forget);
  };
}
