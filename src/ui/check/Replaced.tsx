'use client';

import { useState } from 'react';
import { useGame } from '@/ui/engine';
import { Form } from '@/ui/shared/controls';
import { BeforeAfter } from '@/ui/shared/BeforeAfter';
import { oneOr, place } from '@/ui/shared/format';

/** Pictures and sounds of the game before and after: what to look and listen for once the game runs. */
export function Replaced() {
  const { check, roots, deployed } = useGame();
  const { replaced } = check;
  const [chosen, setChosen] = useState<string>();
  const one = replaced.find(({ target }) => target === chosen) ?? replaced[0];
  if (!one) return null;
  const whats = new Set(replaced.map(({ what }) => what));
  const [single, all] =
    whats.size > 1
      ? ['a file', 'pictures and sounds']
      : whats.has('sound')
        ? ['a sound', 'sounds']
        : ['a picture', 'pictures'];
  return (
    <details className="sheet">
      <summary>
        <h2 className="d-inline">
          Before and after: {oneOr(replaced.length, single, `${replaced.length} of the ${all}`)} that should{' '}
          {whats.has('sound') ? (whats.size > 1 ? 'look or sound' : 'sound') : 'look'} different in the game now
        </h2>
      </summary>
      <div className="stackup mt-2">
        <Form.Select
          size="sm"
          aria-label="File"
          value={one.target}
          onChange={(event) => setChosen(event.target.value)}
          style={{ maxWidth: '42rem' }}
        >
          {replaced.map(({ target, by }) => (
            <option key={target} value={target}>
              {place(target, roots)}, by “{by}”
            </option>
          ))}
        </Form.Select>
        <BeforeAfter
          what={one.what}
          target={one.target}
          a="original"
          b="now"
          names={['the original', `what “${one.by}” put there`]}
          revision={deployed.packs}
        />
        <p className="small quiet m-0">
          If the game still {one.what === 'picture' ? 'shows' : 'plays'} the {one.what === 'picture' ? 'left' : 'first'}{' '}
          one, it reads another file: look at the findings above.
        </p>
      </div>
    </details>
  );
}
