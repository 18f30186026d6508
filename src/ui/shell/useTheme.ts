'use client';

import localforage from 'localforage';
import { useEffect, useState } from 'react';
import { z } from 'zod';

const store =
  typeof window === 'undefined' ? undefined : localforage.createInstance({ name: 'tidy-satchel', storeName: 'look' });
const themeSchema = z.enum(['light', 'dark']);

/** Light or dark: what the player chose, else what the computer prefers. */
export function useTheme(): { dark: boolean; toggle(): void } {
  const [dark, setDark] = useState(false);
  useEffect(() => {
    void store?.getItem('theme').then((value) => {
      const kept = themeSchema.safeParse(value);
      setDark(kept.success ? kept.data === 'dark' : window.matchMedia('(prefers-color-scheme: dark)').matches);
    });
  }, []);
  useEffect(() => {
    document.documentElement.dataset.bsTheme = dark ? 'dark' : 'light';
  }, [dark]);
  return {
    dark,
    toggle: () => {
      setDark(!dark);
      void store?.setItem('theme', dark ? 'light' : 'dark');
    },
  };
}
