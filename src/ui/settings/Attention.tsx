'use client';

import { useEngine, useGame } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { oneOr, many, place } from '@/ui/shared/format';
import { Notice } from '@/ui/shared/Notice';
import { Tag } from '@/ui/shared/Tag';
import type { GameView } from '@/worker/contract';
import { useFollow } from '@/ui/shared/useFollow';

/** Folders of packs that a list does not name: the game passes over them. */
export function Needs() {
  const { beyondKeys, roots } = useGame();
  const { act, busy } = useEngine();
  return beyondKeys.needs.map(({ file, path, item, pack, tag }) => (
    <Notice
      key={`${file} ${item}`}
      level="wrong"
      title={`“${item}” is not in the list`}
      action={
        <Button
          size="sm"
          disabled={busy}
          onClick={() => void act((engine) => engine.change({ do: 'list item', file, path, item, on: true }))}
        >
          Add it to the list
        </Button>
      }
    >
      <p>
        {tag && <Tag tag={tag} name={pack} />} The folder of {pack} is not named by{' '}
        <span className="path">{path.join(' › ')}</span> in <span className="path">{place(file, roots)}</span>, so the
        game will not look into it.
      </p>
    </Notice>
  ));
}

/** One edit that stands no more, and what stands there now. */
function LostEdit({ edit }: { edit: GameView['beyondKeys']['lost'][number] }) {
  const { roots } = useGame();
  const { act, busy } = useEngine();
  const { file, path, value, now, fate, by, times } = edit;
  const there = fate === 'back' ? `there again: ${now}` : `now ${now}`;
  return (
    <li>
      <span className="path">
        {path.join(' › ')} = {value ?? '(taken out)'}
      </span>{' '}
      in {place(file, roots)}, wanted by {by === 'you' ? 'you' : `“${by}”`}: {fate === 'dropped' ? 'gone' : there}
      {by === 'you' && (
        <Button
          size="sm"
          variant="outline-secondary"
          className="py-0 ms-2"
          disabled={busy}
          onClick={() => void act((engine) => engine.change({ do: 'drop edit', file, path }))}
        >
          Leave it as it is
        </Button>
      )}
      {times > 1 && (
        <strong className="badge-ask">
          {' '}
          · dropped {times} times: the game does not keep it. Look for another name or place for this key, or make the
          file read-only after deploying.
        </strong>
      )}
    </li>
  );
}

/** Edits that were deployed and stand no more. */
export function Lost() {
  const { beyondKeys, roots } = useGame();
  const { act, busy } = useEngine();
  const follow = useFollow();
  const { lost, stayed } = beyondKeys;
  const dropped = lost.filter(({ fate }) => fate === 'dropped');
  if (lost.length === 0)
    return beyondKeys.sorted.length === 0 ? null : (
      <p className="small quiet m-0" role="status">
        The game has put <span className="path">{beyondKeys.sorted.map((file) => place(file, roots)).join(', ')}</span>{' '}
        into another order since; {many(stayed, 'edit')} of yours and your packs’ stayed.
      </p>
    );
  const again = async () => {
    const go = follow('/game/settings');
    if (await act((engine) => engine.change({ do: 'deploy' }))) go();
  };
  return (
    <Notice
      level="wrong"
      title={
        dropped.length === lost.length
          ? `The game has dropped ${many(lost.length, 'edit')}`
          : `${many(lost.length, 'edit')} no longer ${oneOr(lost.length, 'stands', 'stand')}`
      }
      action={
        <Button size="sm" disabled={busy} onClick={() => void again()}>
          Put {oneOr(lost.length, 'it', 'them')} in again
        </Button>
      }
    >
      <p>
        {stayed > 0 ? `${many(stayed, 'other edit')} stayed. ` : ''}Some games throw a new key out at the first start
        and keep it when it is put in a second time. Putting in again deploys everything that waits.
      </p>
      <ul className="reasons small" aria-label="Edits that stand no more">
        {lost.map((one) => (
          <LostEdit key={`${one.file} ${one.path.join(' ')}`} edit={one} />
        ))}
      </ul>
    </Notice>
  );
}

/** Files that the disk keeps from being written. */
export function ReadOnly() {
  const { settings, roots } = useGame();
  const locked = settings.filter(({ readOnly }) => readOnly);
  if (locked.length === 0) return null;
  const wanted = locked.some(({ edits }) => edits > 0);
  return (
    <Notice
      level={wanted ? 'wrong' : 'note'}
      title={oneOr(locked.length, 'A settings file is read-only', `${locked.length} settings files are read-only`)}
    >
      <p>
        <span className="path">{locked.map(({ target }) => place(target, roots)).join(', ')}</span> cannot be written.
        Often the game’s own configuration program has made it so, to keep its choices. Open the file’s properties, take
        the tick from “read-only”, deploy, and set it again if you like.
      </p>
    </Notice>
  );
}
