'use client';

import { useEngine } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { usePickFolder } from '@/ui/shared/usePickFolder';
import type { CameOf, CardQuestions } from '@/worker/contract';

/** Folders that the app was given, and how it can be given more. */
export type Given = CameOf<CardQuestions['given folders']>;

/** The name of the game, and the ways to its folder. */
export function OwnGame(p: {
  given: Given;
  free: Given['folders'];
  title: string;
  onTitle(title: string): void;
  onChoose(): void;
  onForget(id: string): void;
  onSetUp(folder?: string): void;
}) {
  const { given, free, title, onTitle, onChoose, onForget, onSetUp } = p;
  const { busy } = useEngine();
  const { supported } = usePickFolder();
  const first = free.length > 0 ? 'outline-primary' : 'primary';
  if (!given.asks && !supported && given.folders.length === 0)
    return (
      <>
        <p className="m-0">This browser cannot open a folder on your disk by itself, but the app can do it.</p>
        <FolderHelp closed={given.closed} />
      </>
    );
  return (
    <>
      <p className="m-0">
        Choose the folder the game is installed in. Nothing is written before you have seen the plan, and every original
        is kept first.
      </p>
      {given.asks && (
        <Button variant={first} disabled={busy} onClick={onChoose}>
          Add a game…
        </Button>
      )}
      {(free.length > 0 || !given.asks) && <GameTitle title={title} onTitle={onTitle} />}
      {free.map((one) => (
        <FreeFolder
          key={one.id}
          folder={one}
          noTitle={title.trim() === ''}
          onUse={() => onSetUp(one.id)}
          onForget={() => onForget(one.id)}
        />
      ))}
      {supported && !given.asks && (
        <Button className="mt-auto" variant={first} disabled={busy || title.trim() === ''} onClick={() => onSetUp()}>
          Choose its folder
        </Button>
      )}
      {supported && given.asks && <BrowserWay title={title} onTitle={onTitle} busy={busy} onChoose={() => onSetUp()} />}
      {free.length === 0 && !given.asks && <FolderHelp closed={given.closed} />}
    </>
  );
}

function GameTitle({ title, onTitle }: { title: string; onTitle(title: string): void }) {
  return (
    <Form.Group className="w-100" controlId="title">
      <Form.Label className="small mb-1">What do you call this game?</Form.Label>
      <Form.Control
        value={title}
        maxLength={80}
        onChange={(event) => onTitle(event.target.value)}
        placeholder="Name of the game"
      />
    </Form.Group>
  );
}

/** A folder that no game uses yet. */
function FreeFolder(p: { folder: Given['folders'][number]; noTitle: boolean; onUse(): void; onForget(): void }) {
  const {
    folder: { path, chosen },
    noTitle,
    onUse,
    onForget,
  } = p;
  const { busy } = useEngine();
  return (
    <div className="row-of mw-100">
      <Button
        className="text-start mw-100"
        style={{ overflowWrap: 'anywhere' }}
        disabled={busy || noTitle}
        onClick={onUse}
      >
        Use {path}
      </Button>
      {chosen && (
        <Button
          variant="link"
          size="sm"
          className="p-0"
          disabled={busy}
          aria-label={`Take ${path} away again`}
          onClick={onForget}
        >
          Take it away again
        </Button>
      )}
    </div>
  );
}

/** The browser's own way to a folder, where the app itself has one, too. */
function BrowserWay({
  title,
  onTitle,
  busy,
  onChoose,
}: {
  title: string;
  onTitle(title: string): void;
  busy: boolean;
  onChoose(): void;
}) {
  return (
    <details className="small w-100">
      <summary>Let the browser open the folder instead…</summary>
      <p className="mt-2 mb-1">Originals are then kept in this browser, and in a folder that you choose for them.</p>
      <div className="row-of">
        <Form.Control
          size="sm"
          className="w-auto"
          aria-label="Name of the game, for the browser’s way"
          value={title}
          maxLength={80}
          placeholder="Name of the game"
          onChange={(event) => onTitle(event.target.value)}
        />
        <Button size="sm" variant="outline-secondary" disabled={busy || title.trim() === ''} onClick={onChoose}>
          Choose its folder
        </Button>
      </div>
    </details>
  );
}

/** For folders that the browser refuses, and browsers that open none. */
function FolderHelp({ closed }: { closed: boolean }) {
  if (closed)
    return (
      <p className="m-0 small">
        The app can open this computer’s own folder dialog, but this page does not know its key. Open the address that
        was printed where you started the app.
      </p>
    );
  return (
    <details className="small w-100">
      <summary>The browser refuses the folder, or cannot open any?</summary>
      <p className="mt-2 mb-1">Stop the app and start it with the folder; then open the address that it prints:</p>
      <pre className="path m-0">npm start -- --folder &quot;C:\Games\My game&quot;</pre>
    </details>
  );
}
