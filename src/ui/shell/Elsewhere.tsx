'use client';

import { useEngine, useGame } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { Notice } from '@/ui/shared/Notice';
import { many, moment } from '@/ui/shared/format';

/** The game went on from what lay beside its originals, or lies there otherwise than here: the player chooses. */
export function Elsewhere() {
  const { snapshot, act, busy } = useEngine();
  const { elsewhere, packs } = useGame();
  const found = snapshot?.foundAt;
  const take = (which: 'disk' | 'browser') => void act((engine) => engine.change({ do: 'choose set-up', take: which }));
  return (
    <>
      {found !== undefined && (
        <Notice level="good" title={`This game goes on from what lay beside its originals, written ${moment(found)}.`}>
          <p>Its packs, their places and order, your choices and settings are as they were.</p>
        </Notice>
      )}
      {elsewhere && (
        <Notice level="note" title="Two set-ups of this game are known, and they differ.">
          <p className="m-0">
            Here in this browser: {many(packs.filter(({ on }) => on).length, 'pack')} in use. Beside the originals:{' '}
            {many(elsewhere.packs, 'pack')} in use, written {moment(elsewhere.at)} by another browser or at another
            time.
          </p>
          {elsewhere.says.length > 0 && (
            <details className="small">
              <summary>What would change here</summary>
              <ul className="m-0">
                {elsewhere.says.map((one) => (
                  <li key={one}>{one}</li>
                ))}
              </ul>
            </details>
          )}
          {elsewhere.missing.length > 0 && (
            <p className="m-0">
              It uses {many(elsewhere.missing.length, 'folder')} that the app was not given here:{' '}
              {elsewhere.missing.join(', ')}. Add {elsewhere.missing.length === 1 ? 'it' : 'them'} first, on the page
              “How this game works”.
            </p>
          )}
          <div className="row-of mt-2">
            <Button size="sm" disabled={busy || elsewhere.missing.length > 0} onClick={() => take('disk')}>
              Go on from the one beside the originals
            </Button>
            <Button size="sm" variant="outline-primary" disabled={busy} onClick={() => take('browser')}>
              Keep the one in this browser
            </Button>
            <span className="small quiet">Nothing is written to the game. The last ten are kept on the disk.</span>
          </div>
        </Notice>
      )}
    </>
  );
}
