import { useEffect, useState, type KeyboardEvent, type RefObject } from 'react';

/**
 * Arrow keys, Home and End go through the rows of a long list, each in focus and so read whole; only those in sight are
 * there, so one that is far off is scrolled to first. Keys pressed in a row's own controls are theirs.
 *
 * @param total rows of the list
 * @param scrollTo brings a row into sight
 */
export function useRowKeys(
  list: RefObject<HTMLElement | null>,
  total: number,
  scrollTo: (index: number) => void,
): { onKeyDown(event: KeyboardEvent<HTMLElement>): void } {
  const [wanted, setWanted] = useState<{ index: number }>();
  useEffect(() => {
    if (wanted === undefined) return undefined;
    // The row is drawn once the list has scrolled there.
    let frame = 0;
    const focus = (tries: number) => {
      const row = list.current?.querySelector<HTMLElement>(`[aria-rowindex="${wanted.index + 1}"]`);
      if (row) row.focus();
      else if (tries > 0) frame = requestAnimationFrame(() => focus(tries - 1));
    };
    focus(20);
    return () => cancelAnimationFrame(frame);
  }, [list, wanted]);
  return {
    onKeyDown: (event) => {
      const { target, key } = event;
      const row = target instanceof HTMLElement ? Number(target.getAttribute('aria-rowindex')) - 1 : -1;
      if (target !== list.current && row < 0) return;
      const goals: Record<string, number> = { ArrowDown: row + 1, ArrowUp: row - 1, Home: 0, End: total - 1 };
      const goal = goals[key];
      if (goal === undefined || goal < 0 || goal >= total || (row < 0 && key === 'ArrowUp')) return;
      event.preventDefault();
      scrollTo(goal);
      setWanted({ index: goal });
    },
  };
}
