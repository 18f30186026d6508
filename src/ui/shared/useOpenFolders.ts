import { useState } from 'react';

/** Which folders of a tree are open; each pack has its own, beginning with `first`. */
export function useOpenFolders(pack: string, first: readonly string[]): { open: string[]; toggle(path: string): void } {
  const [all, setAll] = useState<Record<string, string[]>>({});
  const open = all[pack] ?? [...first];
  return {
    open,
    toggle: (path) =>
      setAll({ ...all, [pack]: open.includes(path) ? open.filter((one) => one !== path) : [...open, path] }),
  };
}
