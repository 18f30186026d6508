import { useEffect, useRef } from 'react';

/** What is open, the latest last. */
const opened: (() => void)[] = [];

function onKey(event: KeyboardEvent): void {
  const { target } = event;
  if (event.key !== 'Escape' || event.defaultPrevented || !(target instanceof Element)) return;
  // Dialogs and menus close by themselves; a search field is emptied first.
  if (target.closest('[role="dialog"], .dropdown')) return;
  if (target instanceof HTMLInputElement && target.type === 'search' && target.value !== '') return;
  const folded = target.closest('details[open]');
  const close = opened.at(-1);
  if (folded) {
    folded.removeAttribute('open');
    folded.querySelector('summary')?.focus();
  } else close?.();
}

/** Escape closes what was opened last. @param close undefined where there is nothing to close */
export function useEscape(close: (() => void) | undefined): void {
  const latest = useRef(close);
  useEffect(() => {
    latest.current = close;
  });
  const isOpen = close !== undefined;
  useEffect(() => {
    if (!isOpen) return undefined;
    const run = () => latest.current?.();
    opened.push(run);
    return () => {
      opened.splice(opened.indexOf(run), 1);
    };
  }, [isOpen]);
}

/** To be called once for the whole page. @returns ends it */
export function listenForEscape(): () => void {
  addEventListener('keydown', onKey);
  return () => removeEventListener('keydown', onKey);
}
