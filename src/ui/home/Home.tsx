'use client';

import { FolderOpen, Ship } from 'lucide-react';
import { useRouter, useSearchParams } from 'next/navigation';
import { Suspense, useEffect, useRef, useState } from 'react';
import { useEngine } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { FailureNotice } from '@/ui/shared/Notice';
import { usePickFolder } from '@/ui/shared/usePickFolder';
import { JobPanel } from '@/ui/shell/JobPanel';
import { Opening } from '@/ui/shell/Opening';
import type { CameOf, CardQuestions } from '@/worker/contract';

type Given = CameOf<CardQuestions['given folders']>;

/** The first page: two doors. With the demo asked for, or a game set up already, it opens that at once. */
export function Home({ demo }: { demo: boolean }) {
  return (
    <Suspense>
      <Doors demo={demo} />
    </Suspense>
  );
}

function Doors({ demo }: { demo: boolean }) {
  const { snapshot, act, failure, dismiss, busy } = useEngine();
  const router = useRouter();
  const query = useSearchParams();
  const [given, setGiven] = useState<Given>();
  const { supported, pick } = usePickFolder();
  const [title, setTitle] = useState('');
  /** The player went through one of the doors: that one leads on. */
  const going = useRef(false);
  const ready = snapshot?.ready === true;
  const used = useRef<string[]>([]);
  useEffect(() => {
    used.current = snapshot?.games.flatMap(({ folders }) => folders) ?? [];
  });
  /** Folders that no game uses yet. */
  const free = given?.folders.filter(({ id }) => !snapshot?.games.some(({ folders }) => folders.includes(id))) ?? [];
  const unused = free.length > 0;
  // With a folder that no game is set up for, the player is here to set one up.
  const choosing = query.has('choose') || (query.has('door') && unused);
  const known = ready && given !== undefined;
  const opens = known && !choosing && (demo || snapshot.games.length > 0);

  useEffect(() => {
    if (!opens || going.current) return;
    void (async () => {
      // Only where there is no game at all: one that cannot be opened now has a page of its own.
      if (snapshot.games.length === 0 && !snapshot.readOnly) await act((engine) => engine.change({ do: 'open demo' }));
      router.replace('/game/bring-in');
    })();
    // Once, when it is known what is there.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [opens]);

  const lookAround = async () => {
    going.current = true;
    await act((engine) => engine.change({ do: 'open demo' }));
    router.push('/game/bring-in');
  };
  const setUp = async (folder?: string) => {
    const where = folder ?? (await pick());
    if (!where) return;
    going.current = true;
    await act((engine) => engine.change({ do: 'add game', title, folder: where }));
    router.push('/game/card');
  };
  const chooseFolder = async () => {
    const chosen = await act((engine) => engine.ask({ ask: 'choose folder' }));
    if (!chosen) return;
    setGiven(
      (before) => before && { ...before, folders: [...before.folders.filter(({ id }) => id !== chosen.id), chosen] },
    );
    if (title.trim() === '') setTitle(chosen.name);
  };
  const forget = async (id: string) => {
    await act((engine) => engine.change({ do: 'forget folder', id }));
    setGiven(await act((engine) => engine.ask({ ask: 'given folders' })));
  };
  useEffect(() => {
    if (ready)
      void act(
        (engine) => engine.ask({ ask: 'given folders' }),
        (failure) => failure.code === 'server-gone',
      ).then((found) => {
        setGiven(found ?? { folders: [], closed: false, asks: false });
        // One folder that no game uses yet: the game is called like it, as long as nobody says otherwise.
        const fresh = found?.folders.filter(({ id }) => !used.current.includes(id)) ?? [];
        if (fresh.length === 1) setTitle((before) => (before === '' ? (fresh[0]?.name ?? '') : before));
      });
  }, [ready, act]);

  if (!known || opens) return <Opening />;
  return (
    <main className="home">
      <title>Set up a game · Tidy Satchel</title>
      <div className="inner">
        <div>
          <h1>Put mods into your game, and take them out again without a trace</h1>
          <p className="quiet mt-2 mb-0">
            Tidy Satchel shows where every file of a pack goes, keeps your game’s own files safe first, and puts
            everything back whenever you like.
          </p>
        </div>
        {failure && <FailureNotice failure={failure} onDismiss={dismiss} />}
        <div className="doors">
          <section className="sheet stackup align-items-start">
            <h2 className="row-of">
              <Ship size={20} aria-hidden /> Look around with the demo
            </h2>
            <p className="m-0">
              Three made-up games with shelves of packs to try, each with a problem that players meet. They live in this
              browser only; nothing on your disk is touched.
            </p>
            <Button className="mt-auto" disabled={busy} onClick={() => void lookAround()}>
              Open the demo
            </Button>
          </section>
          <section className="sheet stackup align-items-start">
            <h2 className="row-of">
              <FolderOpen size={20} aria-hidden /> Set up my own game
            </h2>
            {given.asks || supported || given.folders.length > 0 ? (
              <>
                <p className="m-0">
                  Choose the folder the game is installed in. Nothing is written before you have seen the plan, and
                  every original is kept first.
                </p>
                {given.asks && (
                  <Button
                    variant={free.length > 0 ? 'outline-primary' : 'primary'}
                    disabled={busy}
                    onClick={() => void chooseFolder()}
                  >
                    Add a game…
                  </Button>
                )}
                {(free.length > 0 || !given.asks) && (
                  <Form.Group className="w-100" controlId="title">
                    <Form.Label className="small mb-1">What do you call this game?</Form.Label>
                    <Form.Control
                      value={title}
                      maxLength={80}
                      onChange={(event) => setTitle(event.target.value)}
                      placeholder="Name of the game"
                    />
                  </Form.Group>
                )}
                {free.map(({ id, path, chosen }) => (
                  <div key={id} className="row-of mw-100">
                    <Button
                      className="text-start mw-100"
                      style={{ overflowWrap: 'anywhere' }}
                      disabled={busy || title.trim() === ''}
                      onClick={() => void setUp(id)}
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
                        onClick={() => void forget(id)}
                      >
                        Take it away again
                      </Button>
                    )}
                  </div>
                ))}
                {supported && !given.asks && (
                  <Button
                    className="mt-auto"
                    variant={free.length > 0 ? 'outline-primary' : 'primary'}
                    disabled={busy || title.trim() === ''}
                    onClick={() => void setUp()}
                  >
                    Choose its folder
                  </Button>
                )}
                {supported && given.asks && (
                  <BrowserWay title={title} onTitle={setTitle} busy={busy} onChoose={() => void setUp()} />
                )}
                {free.length === 0 && !given.asks && <FolderHelp closed={given.closed} />}
              </>
            ) : (
              <>
                <p className="m-0">This browser cannot open a folder on your disk by itself, but the app can do it.</p>
                <FolderHelp closed={given.closed} />
              </>
            )}
          </section>
        </div>
        {snapshot.games.length > 0 && (
          <Button variant="link" className="p-0 align-self-start" onClick={() => router.push('/game/bring-in')}>
            Back to {snapshot.game?.title ?? snapshot.closed?.title ?? 'your games'}
          </Button>
        )}
      </div>
      <JobPanel />
    </main>
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
