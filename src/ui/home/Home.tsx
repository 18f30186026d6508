'use client';

import { FolderOpen, Ship } from 'lucide-react';
import { useRouter, useSearchParams } from 'next/navigation';
import { Suspense, useCallback, useEffect, useRef, useState, type RefObject } from 'react';
import { useEngine } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { FailureNotice } from '@/ui/shared/Notice';
import { usePickFolder } from '@/ui/shared/usePickFolder';
import { JobPanel } from '@/ui/shell/JobPanel';
import { Opening } from '@/ui/shell/Opening';
import { OwnGame, type Given } from './OwnGame';

/** The first page: two doors. With the demo asked for, or a game set up already, it opens that at once. */
export function Home({ demo }: { demo: boolean }) {
  return (
    <Suspense>
      <Doors demo={demo} />
    </Suspense>
  );
}

/** Folders that the app was given; games use some of them. */
function useGivenFolders(ready: boolean, onFresh: (name: string) => void) {
  const { snapshot, act } = useEngine();
  const [given, setGiven] = useState<Given>();
  const used = useRef<string[]>([]);
  useEffect(() => {
    used.current = snapshot?.games.flatMap(({ folders }) => folders) ?? [];
  });
  /** Folders that no game uses yet. */
  const free = given?.folders.filter(({ id }) => !snapshot?.games.some(({ folders }) => folders.includes(id))) ?? [];
  useEffect(() => {
    if (ready)
      void act(
        (engine) => engine.ask({ ask: 'given folders' }),
        (failure) => failure.code === 'server-gone',
      ).then((found) => {
        setGiven(found ?? { folders: [], closed: false, asks: false });
        // One folder that no game uses yet: the game is called like it, as long as nobody says otherwise.
        const fresh = found?.folders.filter(({ id }) => !used.current.includes(id)) ?? [];
        if (fresh.length === 1) onFresh(fresh[0]?.name ?? '');
      });
  }, [ready, act, onFresh]);
  const choose = async () => {
    const chosen = await act((engine) => engine.ask({ ask: 'choose folder' }));
    if (!chosen) return;
    setGiven(
      (before) => before && { ...before, folders: [...before.folders.filter(({ id }) => id !== chosen.id), chosen] },
    );
    return chosen.name;
  };
  const forget = async (id: string) => {
    await act((engine) => engine.change({ do: 'forget folder', id }));
    setGiven(await act((engine) => engine.ask({ ask: 'given folders' })));
  };
  return { given, free, choose, forget };
}

function DemoDoor({ onOpen }: { onOpen(): void }) {
  const { busy } = useEngine();
  return (
    <section className="sheet stackup align-items-start">
      <h2 className="row-of">
        <Ship size={20} aria-hidden /> Look around with the demo
      </h2>
      <p className="m-0">
        Three made-up games with shelves of packs to try, each with a problem that players meet. They live in this
        browser only; nothing on your disk is touched.
      </p>
      <Button className="mt-auto" disabled={busy} onClick={onOpen}>
        Open the demo
      </Button>
    </section>
  );
}

/** Leads on by itself where there is a game already, or the demo was asked for; never after a door was taken. */
function useOpening(opens: boolean, going: RefObject<boolean>) {
  const { snapshot, act } = useEngine();
  const router = useRouter();
  useEffect(() => {
    if (!opens || going.current) return;
    void (async () => {
      // Only where there is no game at all: one that cannot be opened now has a page of its own.
      if (snapshot?.games.length === 0 && !snapshot.readOnly) await act((engine) => engine.change({ do: 'open demo' }));
      router.replace('/game/bring-in');
    })();
    // Once, when it is known what is there.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [opens]);
}

function Welcome() {
  return (
    <div>
      <h1>Put mods into your game, and take them out again without a trace</h1>
      <p className="quiet mt-2 mb-0">
        Tidy Satchel shows where every file of a pack goes, keeps your game’s own files safe first, and puts everything
        back whenever you like.
      </p>
    </div>
  );
}

function BackToGame() {
  const { snapshot } = useEngine();
  const router = useRouter();
  return (
    <Button variant="link" className="p-0 align-self-start" onClick={() => router.push('/game/bring-in')}>
      Back to {snapshot?.game?.title ?? snapshot?.closed?.title ?? 'your games'}
    </Button>
  );
}

function Doors({ demo }: { demo: boolean }) {
  const { snapshot, act, failure, dismiss } = useEngine();
  const router = useRouter();
  const query = useSearchParams();
  const { pick } = usePickFolder();
  const [title, setTitle] = useState('');
  /** The player went through one of the doors: that one leads on. */
  const going = useRef(false);
  const ready = snapshot?.ready === true;
  // The game is called like its folder, as long as nobody says otherwise.
  const proposeTitle = useCallback((name: string) => setTitle((now) => (now.trim() === '' ? name : now)), []);
  const { given, free, choose, forget } = useGivenFolders(ready, proposeTitle);
  const unused = free.length > 0;
  // With a folder that no game is set up for, the player is here to set one up.
  const choosing = query.has('choose') || (query.has('door') && unused);
  const known = ready && given !== undefined;
  const opens = known && !choosing && (demo || snapshot.games.length > 0);

  useOpening(opens, going);

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

  if (!known || opens) return <Opening />;
  return (
    <main className="home">
      <title>Set up a game · Tidy Satchel</title>
      <div className="inner">
        <Welcome />
        {failure && <FailureNotice failure={failure} onDismiss={dismiss} />}
        <div className="doors">
          <DemoDoor onOpen={() => void lookAround()} />
          <section className="sheet stackup align-items-start">
            <h2 className="row-of">
              <FolderOpen size={20} aria-hidden /> Set up my own game
            </h2>
            <OwnGame
              given={given}
              free={free}
              title={title}
              onTitle={setTitle}
              onChoose={() => void choose().then((name) => name !== undefined && proposeTitle(name))}
              onForget={(id) => void forget(id)}
              onSetUp={(folder) => void setUp(folder)}
            />
          </section>
        </div>
        {snapshot.games.length > 0 && <BackToGame />}
      </div>
      <JobPanel />
    </main>
  );
}
