'use client';

import { useState } from 'react';
import { useGame } from '@/ui/engine';
import { Form } from '@/ui/shared/controls';
import { ComparePictures } from '@/ui/shared/ComparePictures';
import { oneOr, place } from '@/ui/shared/format';

/** Pictures of the game before and after: what to look for on the screen once the game runs. */
export function Pictures() {
  const { check, roots, deployed } = useGame();
  const { pictures } = check;
  const [chosen, setChosen] = useState<string>();
  const one = pictures.find(({ target }) => target === chosen) ?? pictures[0];
  if (!one) return null;
  return (
    <details className="sheet">
      <summary>
        <h2 className="d-inline">
          Before and after: {oneOr(pictures.length, 'a picture', `${pictures.length} of the pictures`)} that should look
          different in the game now
        </h2>
      </summary>
      <div className="stackup mt-2">
        <Form.Select
          size="sm"
          aria-label="Picture"
          value={one.target}
          onChange={(event) => setChosen(event.target.value)}
          style={{ maxWidth: '42rem' }}
        >
          {pictures.map(({ target, by }) => (
            <option key={target} value={target}>
              {place(target, roots)}, by “{by}”
            </option>
          ))}
        </Form.Select>
        <ComparePictures
          target={one.target}
          a="original"
          b="now"
          names={['the original', `what “${one.by}” put there`]}
          revision={deployed.packs}
        />
        <p className="small quiet m-0">
          If the game still shows the left one, it reads another file: look at the findings above.
        </p>
      </div>
    </details>
  );
}
