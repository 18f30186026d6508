import { usePathname, useSearchParams } from 'next/navigation';
import { useCallback } from 'react';
import { isLeaving } from './leaving';

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
      if (next === window.location.search.replace(/^\?/, '')) return;
      window.history.pushState(null, '', next === '' ? path : `${path}?${next}`);
    },
    [path],
  );
  return { at: (name) => says.get(name) ?? undefined, open };
}
