'use client';

import { ArrowDown, ArrowUp } from 'lucide-react';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { useEngine, useGame } from '@/ui/engine';
import { count, many } from '@/ui/shared/format';
import { NothingYet } from '@/ui/shared/NothingYet';
import { Tag } from '@/ui/shared/Tag';
import type { PackView } from '@/worker/api';

/** The layers as they lie: the topmost wins, the game's own files are the ground. */
export function Stack() {
  const game = useGame();
  if (game.packs.length === 0) return <NothingYet what="Nothing lies over the game’s own files yet." />;
  const top = [...game.packs].reverse();
  return (
    <>
      <div>
        <h1>What lies over what</h1>
        <p className="quiet m-0">Where two packs bring the same file, the higher one is used. Take a pack out or move it, and what lies below comes through again.</p>
      </div>
      <ol className="list-unstyled stackup m-0" aria-label="Stack, topmost first" style={{ gap: '0.4rem' }}>
        {game.settings.length > 0 && game.deployed.edits + game.switches.filter(({ edited }) => edited).length > 0 && (
          <li className="slab ground">
            <strong className="grow">Your settings</strong>
            <span className="quiet small">edits in the game’s settings files, above all packs</span>
          </li>
        )}
        {top.map((pack, i) => (
          <Slab key={pack.layer} pack={pack} first={i === 0} last={i === top.length - 1} />
        ))}
        <li className="slab ground">
          <strong className="grow">{game.title}, as it was</strong>
          <span className="quiet small">{many(game.deployed.originals, 'original')} kept safe</span>
        </li>
      </ol>
    </>
  );
}

function Slab({ pack, first, last }: { pack: PackView; first: boolean; last: boolean }) {
  const { act, busy } = useEngine();
  const [asking, setAsking] = useState(false);
  const { wins, loses } = pack.overlaps;
  return (
    <li className={`slab ${pack.on ? '' : 'off'}`}>
      <Tag tag={pack.tag} />
      <div className="grow">
        <strong>{pack.name}</strong>
        <div className="small quiet">
          {!pack.on ? 'left out of the next deployment' : pack.placement.confidence === 'ask' ? 'not placed yet' : many(pack.placement.placed, 'file')}
          {wins > 0 && ` · covers ${many(wins, 'file')} of packs below`}
          {loses > 0 && ` · ${many(loses, 'of its files lies', 'of its files lie')} under a pack above`}
          {pack.deployed > 0 && ` · ${count(pack.deployed)} in the game now`}
        </div>
      </div>
      <Form.Check type="switch" label="Use" id={`use-${pack.layer}`} aria-label={`Use ${pack.name}`} checked={pack.on} disabled={busy} onChange={() => void act((engine) => engine.setOn(pack.layer, !pack.on))} />
      <Button variant="outline-secondary" size="sm" disabled={busy || first} aria-label={`Move ${pack.name} up`} onClick={() => void act((engine) => engine.move(pack.layer, 1))}>
        <ArrowUp size={16} aria-hidden />
      </Button>
      <Button variant="outline-secondary" size="sm" disabled={busy || last} aria-label={`Move ${pack.name} down`} onClick={() => void act((engine) => engine.move(pack.layer, -1))}>
        <ArrowDown size={16} aria-hidden />
      </Button>
      {asking ? (
        <span className="row-of">
          <span className="small">Forget it and its decisions?</span>
          <Button variant="danger" size="sm" disabled={busy} onClick={() => void act((engine) => engine.takeOut(pack.layer))}>
            Take out
          </Button>
          <Button variant="outline-secondary" size="sm" onClick={() => setAsking(false)}>
            Keep
          </Button>
        </span>
      ) : (
        <Button variant="outline-danger" size="sm" disabled={busy} aria-label={`Take ${pack.name} out of the stack`} onClick={() => setAsking(true)}>
          Take out…
        </Button>
      )}
    </li>
  );
}
