'use client';

import { useEffect, useState } from 'react';
import type { DiffLine } from '@/core';
import { useEngine } from '@/ui/engine';

const MARKS = { same: ' ', 'only a': '−', 'only b': '+', gap: '⋯' } as const;
/** Longer lines are cut for showing; the file keeps them. */
const LONGEST = 400;

/** Two texts line by line: what only the one has, what only the other has. */
export function CompareTexts({
  target,
  a,
  b,
  revision,
}: {
  target: string;
  a: string;
  b: string;
  revision: number | undefined;
}) {
  const { engine } = useEngine();
  const [lines, setLines] = useState<DiffLine[]>();
  useEffect(() => {
    let current = true;
    void engine?.ask({ ask: 'compare texts', target, a, b }).then(
      (found) => current && setLines(found),
      () => current && setLines([]),
    );
    return () => {
      current = false;
    };
  }, [engine, target, a, b, revision]);
  if (!lines) return <p className="small quiet m-0">Comparing…</p>;
  if (lines.length === 0) return <p className="small quiet m-0">They hold the same text.</p>;
  return <DiffLines lines={lines} />;
}

/** Lines that two texts have or lack. */
export function DiffLines({ lines }: { lines: readonly DiffLine[] }) {
  return (
    <pre className="diff" role="region" aria-label="Differences" tabIndex={0}>
      {lines.map((line, i) => (
        <span key={i} className={`diff-${line.kind.replace(' ', '-')}`}>
          <i>{line.kind === 'gap' ? '' : (line.b ?? line.a)}</i>
          {MARKS[line.kind]} {line.text.replace(/[\r\n]+$/, '').slice(0, LONGEST)}
          {'\n'}
        </span>
      ))}
    </pre>
  );
}
