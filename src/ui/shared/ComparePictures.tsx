'use client';

import { useEffect, useState } from 'react';
import { useEngine } from '@/ui/engine';
import { Form } from '@/ui/shared/controls';

interface Props {
  target: string;
  a: string;
  b: string;
  names: [string, string];
  revision: number | undefined;
}

/** Two pictures laid over each other, with a slider between them. */
export function ComparePictures({ target, a, b, names, revision }: Props) {
  const [left, right] = [usePicture(target, a, revision), usePicture(target, b, revision)];
  const [at, setAt] = useState(50);
  if (left === 'none' || right === 'none')
    return <p className="small quiet m-0">This format cannot be drawn in a browser; sizes and checksums are above.</p>;
  return (
    <div className="stackup" style={{ gap: '0.3rem' }}>
      <div className="duel">
        {right && <img src={right} alt={names[1]} />}
        {left && <img src={left} alt={names[0]} style={{ clipPath: `inset(0 ${100 - at}% 0 0)` }} />}
        <span className="duel-line" style={{ left: `${at}%` }} />
      </div>
      <Form.Range
        aria-label={`How much of ${names[0]} is shown over ${names[1]}`}
        value={at}
        onChange={(event) => setAt(Number(event.target.value))}
        style={{ maxWidth: '15rem' }}
      />
      <p className="small quiet m-0">
        Left of the line: {names[0]}. Right of it: {names[1]}.
      </p>
    </div>
  );
}

/** A picture out of the worker; `none` where it cannot be drawn. */
function usePicture(target: string, from: string, revision: number | undefined): string | undefined {
  const { engine } = useEngine();
  const [url, setUrl] = useState<string>();
  useEffect(() => {
    let made: string | undefined;
    let current = true;
    void engine?.ask({ ask: 'picture', target, from }).then(
      (blob) => {
        if (!current) return;
        made = blob && URL.createObjectURL(blob);
        setUrl(made ?? 'none');
      },
      () => current && setUrl('none'),
    );
    return () => {
      current = false;
      if (made) URL.revokeObjectURL(made);
    };
  }, [engine, target, from, revision]);
  return url;
}
