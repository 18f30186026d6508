'use client';

import Link from 'next/link';
import { useEngine } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import type { ClosedGame as Closed } from '@/worker/contract';
import { JobPanel } from './JobPanel';

type Asking = FileSystemDirectoryHandle & {
  requestPermission?(options: { mode: 'readwrite' }): Promise<PermissionState>;
};

/**
 * A game that cannot be opened now: what is wrong, what to do, and the other games. No other game takes its place by
 * itself.
 */
export function ClosedGame({ closed }: { closed: Closed }) {
  const { engine, snapshot, act, busy, failure } = useEngine();
  const others = snapshot?.games.filter(({ id }) => id !== closed.id) ?? [];
  return (
    <main className="home">
      <title>{`${closed.title} · Tidy Satchel`}</title>
      <div className="inner">
        <section className="sheet stackup align-items-start" aria-label={closed.title}>
          <Why closed={closed} />
          {failure && closed.how !== 'failed' && <p className="m-0 small">{failure.says}</p>}
        </section>
        {others.length > 0 && (
          <section className="sheet stackup align-items-start">
            <h2>Go on with another game</h2>
            <div className="row-of">
              {others.map(({ id, title, demo }) => (
                <Button
                  key={id}
                  variant="outline-secondary"
                  disabled={busy || !engine}
                  onClick={() => void act((one) => one.change({ do: 'choose game', id }))}
                >
                  {title} {demo && '(demo)'}
                </Button>
              ))}
            </div>
          </section>
        )}
        <Link href="/?choose">Set up another game</Link>
      </div>
      <JobPanel />
    </main>
  );
}

interface WhyProps {
  closed: Closed;
  onAgain(): void;
}

function Places({ folders }: { folders: readonly string[] }) {
  return folders.length > 0 && <span className="path">{folders.join(', ')}</span>;
}

/** The browser wants to be asked again. */
function NotAllowed({ closed: { title, folders } }: WhyProps) {
  const { act, busy } = useEngine();
  const allow = () =>
    act(async (engine) => {
      for (const handle of await engine.ask({ ask: 'handles' }))
        await (handle as Asking).requestPermission?.({ mode: 'readwrite' });
      await engine.change({ do: 'look again' });
    });
  return (
    <>
      <h1>Allow the folder of {title} again</h1>
      <p className="m-0">
        The browser forgets its permission when a page is closed. Nothing in <Places folders={folders} /> has been
        changed meanwhile, and nothing you decided is lost.
      </p>
      <Button disabled={busy} onClick={() => void allow()}>
        Allow this folder
      </Button>
    </>
  );
}

/** The app was started without its folder. */
function NotStartedWith({ closed: { title, folders, backup }, onAgain }: WhyProps) {
  const { act, busy } = useEngine();
  return (
    <>
      <h1>The folder of {title} is not open to the app</h1>
      <p className="m-0">
        The app may not use <Places folders={folders} /> now: it was started without it, or it is not there, a disk that
        is not plugged in. Nothing in it has been changed meanwhile, and nothing you decided is lost.
      </p>
      <div className="row-of">
        <Button
          disabled={busy}
          onClick={() =>
            void act((engine) => engine.ask({ ask: 'choose folder' })).then((chosen) => chosen && onAgain())
          }
        >
          Choose that folder…
        </Button>
        <Button variant="outline-secondary" disabled={busy} onClick={onAgain}>
          Look again
        </Button>
      </div>
      <p className="m-0">
        Or stop the app with Ctrl+C, start it with the line below, and open the address that it prints. It holds a key
        that is new with each start. This page goes on by itself then.
      </p>
      <pre className="path m-0" style={{ whiteSpace: 'pre-wrap' }}>
        npm start -- {folders.map((folder) => `--folder "${folder}" `)}--backup &quot;{backup}&quot;
      </pre>
    </>
  );
}

/** Something failed when it was opened. */
function CannotBeOpened({ closed: { title, backup, failure }, onAgain }: WhyProps) {
  const { busy } = useEngine();
  return (
    <>
      <h1>{title} cannot be opened now</h1>
      <p className="m-0">
        <strong>{failure?.says}</strong> {failure?.next}
      </p>
      <p className="m-0">
        Nothing you decided is lost, and the originals are where they were
        {backup !== undefined && (
          <>
            {' '}
            (<span className="path">{backup}</span>)
          </>
        )}
        . This page tries again by itself every few seconds.
      </p>
      <Button disabled={busy} onClick={onAgain}>
        Try again
      </Button>
    </>
  );
}

function Why({ closed }: { closed: Closed }) {
  const { act } = useEngine();
  const again = () => void act((engine) => engine.change({ do: 'look again' }));
  const Reason = { permission: NotAllowed, 'not-started-with': NotStartedWith, failed: CannotBeOpened }[closed.how];
  return <Reason closed={closed} onAgain={again} />;
}
