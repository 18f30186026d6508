'use client';

import { Button, Form } from '@/ui/shared/controls';
import { oneOr } from '@/ui/shared/format';

import { useEffect, useState } from 'react';
import { useEngine, useGame } from '@/ui/engine';
import { usePickFolder } from '@/ui/shared/usePickFolder';
import type { CameOf, CardQuestions } from '@/worker/contract';

/** The ways to a folder that the app's own server opens: its dialog, and folders that were given at the start. */
function OverServer(p: { near: string; none: boolean; free: { id: string; path: string }[]; onAdd(id: string): void }) {
  const { near, none, free, onAdd } = p;
  const { act, busy } = useEngine();
  const choose = async (beside?: string) => {
    const chosen = await act((engine) => engine.ask({ ask: 'choose folder', near: beside }));
    if (chosen) onAdd(chosen.id);
  };
  return (
    <>
      <Button size="sm" variant="outline-primary" disabled={busy || none} onClick={() => void choose()}>
        Choose that folder…
      </Button>{' '}
      <Button
        size="sm"
        variant="outline-secondary"
        disabled={busy || none}
        title={`Looks for a folder called “${near}” where programs keep what is yours, and begins there.`}
        onClick={() => void choose(near)}
      >
        Look in the usual places…
      </Button>
      {free.map(({ id, path }) => (
        <Button key={id} size="sm" variant="outline-primary" disabled={busy} onClick={() => onAdd(id)}>
          Add {path}
        </Button>
      ))}
    </>
  );
}

/**
 * One more folder of the game: often its settings lie somewhere else than the program.
 *
 * @param noSettings none was found in the folders that are known, so there is likely another one
 */
export function AddFolder({ noSettings }: { noSettings: boolean }) {
  const { act, busy, snapshot } = useEngine();
  const game = useGame();
  const { supported, pick } = usePickFolder('folder');
  const [title, setTitle] = useState('User-data folder');
  const [given, setGiven] = useState<CameOf<CardQuestions['given folders']>['folders']>([]);
  const [said, setSaid] = useState<string[]>();
  const bridged = game.bridged !== undefined;
  useEffect(() => {
    if (bridged)
      void act((engine) => engine.ask({ ask: 'given folders' })).then((found) => setGiven(found?.folders ?? []));
  }, [act, bridged]);
  if (game.demo || (!bridged && !supported)) return null;
  const add = async (id?: string) => {
    const where = id ?? (await act(() => pick()));
    if (where) setSaid(await act((engine) => engine.change({ do: 'add folder', title, folder: where })));
  };
  const used = snapshot?.games.find(({ id }) => id === game.id)?.folders ?? [];
  const free = given.filter(({ id }) => !used.includes(id));
  return (
    <details className="mt-2" open={noSettings || said !== undefined || undefined}>
      <summary>The game keeps files somewhere else too, its settings for instance…</summary>
      {noSettings && (
        <p className="small m-0 mt-1">
          No settings file was found in {oneOr(game.roots.length, 'its folder', 'its folders')}. Many games keep
          settings and saves in a folder of the player’s: show the app where, or let it look in the usual places for a
          folder that is called like the game.
        </p>
      )}
      <div className="row-of mt-2">
        <Form.Control
          size="sm"
          className="w-auto"
          aria-label="What the folder is called"
          maxLength={80}
          value={title}
          onChange={(event) => setTitle(event.target.value)}
        />
        {bridged ? (
          <OverServer near={game.title} none={title.trim() === ''} free={free} onAdd={(id) => void add(id)} />
        ) : (
          <Button size="sm" variant="outline-primary" disabled={busy || title.trim() === ''} onClick={() => void add()}>
            Choose that folder
          </Button>
        )}
      </div>
      {said !== undefined && (
        <p className="small m-0 mt-1" role="status">
          Added. {said.join(' ')}
        </p>
      )}
    </details>
  );
}
