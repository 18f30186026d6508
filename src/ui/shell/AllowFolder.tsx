'use client';

import { Button } from 'react-bootstrap';
import { useEngine, useGame } from '@/ui/engine';

type Asking = FileSystemDirectoryHandle & { requestPermission?(options: { mode: 'readwrite' }): Promise<PermissionState> };

/** Browsers close a picked folder when the page is left; the player opens it again with one click. */
export function AllowFolder() {
  const { act } = useEngine();
  const game = useGame();
  const allow = () =>
    act(async (engine) => {
      for (const handle of await engine.handles()) await (handle as Asking).requestPermission?.({ mode: 'readwrite' });
      await engine.refresh();
    });
  return (
    <section className="sheet stackup align-items-start">
      <h1>Allow the folder of {game.title} again</h1>
      <p className="m-0">
        The browser forgets its permission when a page is closed. Nothing in <span className="path">{game.roots.map(({ where }) => where).join(', ')}</span> has been changed meanwhile, and nothing you decided is lost.
      </p>
      <Button onClick={() => void allow()}>Allow this folder</Button>
    </section>
  );
}
