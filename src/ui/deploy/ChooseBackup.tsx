'use client';

import { useEngine, useGame } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { Notice } from '@/ui/shared/Notice';
import { usePickFolder } from '@/ui/shared/usePickFolder';

/**
 * Before the first deployment into real folders: a place for the originals that does not go with the browser's data.
 */
export function ChooseBackup() {
  const { act, busy } = useEngine();
  const { title } = useGame();
  const { supported, pick } = usePickFolder('backup');
  if (!supported) return null;
  const choose = async () => {
    const handle = await act(() => pick());
    if (handle) await act((engine) => engine.change({ do: 'set backup folder', handle }));
  };
  return (
    <Notice
      level="note"
      title="Choose a folder for the originals"
      action={
        <Button
          size="sm"
          variant="outline-primary"
          className="flex-shrink-0"
          disabled={busy}
          onClick={() => void choose()}
        >
          Choose a backup folder
        </Button>
      }
    >
      <p>
        Without one they are kept in this browser only, and clearing the browser’s data must not cost you {title}. With
        one, each original also lies there as a plain file.
      </p>
    </Notice>
  );
}
