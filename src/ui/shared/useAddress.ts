import { usePathname, useSearchParams } from 'next/navigation';
import { useCallback } from 'react';
import { isComingAnew, isLeaving } from './leaving';

/** What is open on a page, by names of its own; undefined takes one away. */
export type Opened = Record<string, string | undefined>;

/**
 * What is open on a page stands in its address: a reload shows it again, Back closes it, and a link leads to it.
 *
 * @returns what the address says, and how it is changed: everything else that was open closes
 */
export function useAddress(): { at(name: string): string | undefined; open(what: Opened): void } {
  const says = useSearchParams();
  const path = usePathname();
  const open = useCallback(
    (what: Opened) => {
      if (isLeaving()) return;
      const next = new URLSearchParams(
        Object.entries(what).filter((one): one is [string, string] => one[1] !== undefined),
      ).toString();
      const address = next === '' ? path : `${path}?${next}`;
      const isComing = isComingAnew();
      if (next !== window.location.search.replace(/^\?/, '')) window.history.pushState(null, '', address);
      // Said once more, it is not closed by a page that comes later.
      else if (isComing) window.history.replaceState(null, '', address);
    },
    [path],
  );
  return { at: (name) => says.get(name) ?? undefined, open };
}
