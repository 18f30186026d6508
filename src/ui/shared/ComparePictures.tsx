'use client';

import { useState, type SyntheticEvent } from 'react';
import { Button, Form } from '@/ui/shared/controls';
import { useContent, type TwoVersions } from './useContent';

/** How large the pictures are drawn: as the frame is, or so many screen pixels for one of theirs. */
const SIZES: [says: string, zoom: number | undefined][] = [
  ['Whole', undefined],
  ['100 %', 1],
  ['200 %', 2],
  ['400 %', 4],
];

/** Two pictures laid over each other, with a slider between them; both are enlarged and moved together. */
export function ComparePictures({ target, a, b, names, revision }: TwoVersions) {
  const [left, right] = [useContent('picture', target, a, revision), useContent('picture', target, b, revision)];
  const [at, setAt] = useState(50);
  const [zoom, setZoom] = useState<number>();
  const [natural, setNatural] = useState({ width: 1, height: 1 });
  if (left === 'none' || right === 'none')
    return <p className="small quiet m-0">One of the two cannot be drawn here; sizes and checksums are above.</p>;
  const measure = ({ currentTarget: { naturalWidth, naturalHeight } }: SyntheticEvent<HTMLImageElement>) =>
    setNatural(({ width, height }) => ({
      width: Math.max(width, naturalWidth),
      height: Math.max(height, naturalHeight),
    }));
  const stage =
    zoom === undefined
      ? { width: '100%', height: '100%' }
      : { width: `${natural.width * zoom}px`, height: `${natural.height * zoom}px` };
  return (
    <div className="stackup" style={{ gap: '0.3rem' }}>
      <div className="row-of" role="group" aria-label="How large">
        {SIZES.map(([says, one]) => (
          <Button
            key={says}
            size="sm"
            variant={zoom === one ? 'primary' : 'outline-secondary'}
            aria-pressed={zoom === one}
            onClick={() => setZoom(one)}
          >
            {says}
          </Button>
        ))}
      </div>
      <div className="duel" role="region" aria-label={`${names[0]} and ${names[1]}`} tabIndex={0}>
        <div className={`duel-stage ${(zoom ?? 1) > 1 ? 'enlarged' : ''}`} style={stage}>
          {right && <img src={right} alt={names[1]} onLoad={measure} />}
          {left && <img src={left} alt={names[0]} onLoad={measure} style={{ clipPath: `inset(0 ${100 - at}% 0 0)` }} />}
          <span className="duel-line" style={{ left: `${at}%` }} />
        </div>
      </div>
      <Form.Range
        aria-label={`How much of ${names[0]} is shown over ${names[1]}`}
        value={at}
        onChange={(event) => setAt(Number(event.target.value))}
        style={{ maxWidth: '30rem' }}
      />
      <p className="small quiet m-0">
        Left of the line: {names[0]}. Right of it: {names[1]}.
      </p>
    </div>
  );
}
