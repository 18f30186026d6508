'use client';

import { X } from 'lucide-react';
import { useEffect, useState } from 'react';
import { ACTION_WORDS } from '@/ui/deploy/actionWords';
import { useEngine, useGame } from '@/ui/engine';
import { RestorePreview } from '@/ui/ledger/RestorePreview';
import { Button } from '@/ui/shared/controls';
import { moment, place, size } from '@/ui/shared/format';
import { useEscape } from '@/ui/shared/useEscape';
import { Tag } from '@/ui/shared/Tag';
import type { FileNow as Now } from '@/worker/contract';

const SAYS: Record<Now['presence'], (by: string) => string> = {
  own: () => 'It is the game’s own file, or yours. No pack has put anything here.',
  brought: (by) => `“${by}” brought it. Before that there was no such file.`,
  'in place': (by) => `“${by}” lies in place of the game’s own file, which is kept safe.`,
  edited: (by) => `Values were edited in it (${by}). The file as it was is kept safe.`,
  changed: (by) =>
    `“${by}” had put it there, and another program has changed it since. The next deployment asks what shall be done.`,
  gone: (by) =>
    `“${by}” had put it there, and it is not there any more: somebody has deleted it. The next deployment asks what shall be done.`,
};

/** What is there now, what was there before, and the packs that bring it. */
function Facts({ presence, story }: Pick<Now, 'presence' | 'story'>) {
  const before = story.original && `${size(story.original.size)}, SHA-256 ${story.original.sha256?.slice(0, 8) ?? ''}`;
  return (
    <dl className="facts m-0 small">
      {story.now && (
        <>
          <dt>Now</dt>
          <dd>
            {size(story.now.size)}, written {moment(story.now.date)}
          </dd>
        </>
      )}
      <dt>Before</dt>
      <dd>{presence === 'own' ? 'the same' : (before ?? 'no such file')}</dd>
      {story.versions.length > 0 && (
        <>
          <dt>Brought by</dt>
          <dd>
            <ul className="reasons m-0">
              {story.versions.map(({ from, name, tag, path }) => (
                <li key={from} className="row-of" title={path}>
                  {tag && <Tag tag={tag} />} {name}{' '}
                  {from === story.winner && <span className="quiet">(the next deployment uses this one)</span>}
                </li>
              ))}
            </ul>
          </dd>
        </>
      )}
    </dl>
  );
}

/** Each deployment that wrote to it. */
function Done({ history }: Pick<Now, 'history'>) {
  return (
    <div>
      <h3 className="h6">What was done to it</h3>
      {history.length === 0 ? (
        <p className="small quiet m-0">The app has never written to it.</p>
      ) : (
        <ol className="reasons m-0 small" aria-label="What was done to it, latest first">
          {history.map(({ number, at, title, action, by: who }) => (
            <li key={number}>
              <span className={`verb verb-${action}`}>{ACTION_WORDS[action].verb}</span> {moment(at)}: {title}
              {who && !title.includes(who) && <span className="quiet"> ({who})</span>}
            </li>
          ))}
        </ol>
      )}
    </div>
  );
}

/**
 * One file of the game: what lies there, what was there before, who else brings it, what was done, and the way back.
 */
export function FileNow({ target, onClose }: { target: string; onClose(): void }) {
  const { engine, snapshot, busy } = useEngine();
  const game = useGame();
  const [found, setFound] = useState<Now>();
  const [asking, setAsking] = useState(false);
  useEscape(onClose);
  const revision = snapshot?.revision;
  useEffect(() => {
    let current = true;
    void engine?.ask({ ask: 'file now', target }).then(
      (now) => current && setFound(now),
      () => current && onClose(),
    );
    return () => {
      current = false;
    };
  }, [engine, target, revision, onClose]);
  if (!found) return <p className="quiet">Looking at it…</p>;
  const { presence, by, story, history } = found;
  return (
    <section className="sheet stackup scroll" aria-label="This file">
      <div className="between">
        <h2 className="path m-0">{place(target, game.roots)}</h2>
        <Button variant="link" className="p-1" aria-label="Close" onClick={onClose}>
          <X size={18} aria-hidden />
        </Button>
      </div>
      <p className="m-0">{SAYS[presence](by ?? 'The app')}</p>
      <Facts presence={presence} story={story} />
      <Done history={history} />
      {presence !== 'own' &&
        (asking ? (
          <RestorePreview scope={{ what: 'file', at: target }} onClose={() => setAsking(false)} />
        ) : (
          <Button
            size="sm"
            variant="outline-danger"
            className="align-self-start"
            disabled={busy}
            onClick={() => setAsking(true)}
          >
            Put this file back…
          </Button>
        ))}
    </section>
  );
}
