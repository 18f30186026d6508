import { useEffect, useState } from 'react';
import { useEngine } from '@/ui/engine';

/** What is compared: one target as two layers have it, and what these are called. */
export interface TwoVersions {
  target: string;
  a: string;
  b: string;
  names: [string, string];
  revision: number | undefined;
}

/**
 * The address of a picture or sound as one layer has it, out of the worker; `none` where it cannot be shown, undefined
 * while it is made.
 */
export function useContent(
  ask: 'picture' | 'sound',
  target: string,
  from: string,
  revision: number | undefined,
): string | undefined {
  const { engine } = useEngine();
  const [url, setUrl] = useState<string>();
  useEffect(() => {
    let made: string | undefined;
    let current = true;
    void engine?.ask({ ask, target, from }).then(
      (blob) => {
        if (!current) return;
        made = blob && URL.createObjectURL(blob);
        setUrl(made ?? 'none');
      },
      () => current && setUrl('none'),
    );
    return () => {
      current = false;
      if (made) URL.revokeObjectURL(made);
    };
  }, [engine, ask, target, from, revision]);
  return url;
}
