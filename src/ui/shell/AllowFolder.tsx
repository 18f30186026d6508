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
  if (game.bridged !== undefined)
    return (
      <section className="sheet stackup align-items-start">
        <h1>Start the app with the folder of {game.title}</h1>
        <p className="m-0">
          The browser cannot open <span className="path">{game.bridged.folders.join(', ')}</span> by itself; the app does, when it is started with it. Nothing in it has been changed meanwhile, and nothing you decided is lost.
        </p>
        <p className="m-0">
          Stop the app with Ctrl+C, start it with the line below, and open the address that it prints. It holds a key that is new with each start.
        </p>
        <pre className="path m-0" style={{ whiteSpace: 'pre-wrap' }}>
          npm start -- {game.bridged.folders.map((folder) => `--folder "${folder}" `)}--backup &quot;{game.bridged.backup}&quot;
        </pre>
        <Button onClick={() => void act((engine) => engine.refresh())}>Look again</Button>
      </section>
    );
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
