'use client';

import { useCallback } from 'react';

type Picker = (options: { mode: 'readwrite'; id: string }) => Promise<FileSystemDirectoryHandle>;

/** Asks the player for a folder on the disk; undefined where the player changed their mind. */
export function usePickFolder(id: 'game' | 'folder' | 'backup' = 'game'): {
  supported: boolean;
  pick(): Promise<FileSystemDirectoryHandle | undefined>;
} {
  const picker =
    typeof window === 'undefined'
      ? undefined
      : (window as unknown as { showDirectoryPicker?: Picker }).showDirectoryPicker;
  const pick = useCallback(async () => {
    try {
      return await picker?.call(window, { mode: 'readwrite', id });
    } catch (error) {
      if (error instanceof DOMException && error.name === 'AbortError') return undefined;
      throw error;
    }
  }, [picker, id]);
  return { supported: picker !== undefined, pick };
}
