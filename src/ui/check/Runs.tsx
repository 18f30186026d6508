'use client';

import dynamic from 'next/dynamic';
import type { MessageChange } from '@/core';
import { useGame } from '@/ui/engine';
import { count as figure, many, moment } from '@/ui/shared/format';

/** Drawing is a large part of the page's code and comes only when there is something to draw. */
const RunsChart = dynamic(() => import('./RunsChart'), { ssr: false, loading: () => <div style={{ height: 190 }} /> });

/** Changes that are listed. */
const LISTED = 40;
const WORDS = { gone: 'gone', new: 'new', fewer: 'fewer', more: 'more', 'still there': 'still there' } as const;
const VERBS = {
  gone: 'verb-add',
  new: 'verb-remove',
  fewer: 'verb-add',
  more: 'verb-remove',
  'still there': 'quiet',
} as const;

/** Every message counts: those that came and went, and those that are said more or less often. */
function sinceBefore(changes: readonly MessageChange[]): string {
  const count = (wanted: MessageChange['change']) => changes.filter(({ change }) => change === wanted).length;
  const lines = (when: 'before' | 'now') => changes.reduce((sum, one) => sum + one[when], 0);
  const [gone, fresh, fewer, more] = [count('gone'), count('new'), count('fewer'), count('more')];
  if (gone + fresh + fewer + more === 0) return 'nothing came and nothing went';
  const often = [fewer > 0 ? `, ${figure(fewer)} less often` : '', more > 0 ? `, ${figure(more)} more often` : ''];
  return `${many(gone, 'message')} gone, ${figure(fresh)} new${often.join('')}; ${many(lines('before'), 'line')} of trouble then, ${figure(lines('now'))} now`;
}

/** The last two starts side by side, and all of them as a picture: fewer lines after a cure is the sign of success. */
export function Runs() {
  const { check } = useGame();
  const { runs, changes } = check;
  if (runs.length < 2) return null;
  const data = runs.map(({ at, loaded, messages }, i) => ({
    start: i + 1,
    at: moment(at),
    loaded: loaded ?? 0,
    lines: messages.reduce((sum, one) => sum + one.count, 0),
  }));
  return (
    <section className="sheet stackup" aria-label="Since the start before">
      <h2>Since the start before: {sinceBefore(changes)}</h2>
      <div className="run-columns">
        <ul className="reasons" aria-label="What changed in the log" style={{ maxHeight: '11rem', overflow: 'auto' }}>
          {changes.length === 0 && <li className="quiet">No warnings or errors in either of them.</li>}
          {changes.slice(0, LISTED).map(({ says, rule, change, before, now }) => (
            <li key={`${rule} ${says}`}>
              <span className={`verb ${VERBS[change]}`}>{WORDS[change]}</span> {says}{' '}
              <span className="small quiet">
                {before === now ? (now === 1 ? '' : `${figure(now)} times`) : `${figure(before)} → ${figure(now)}`}
              </span>
            </li>
          ))}
        </ul>
        <figure className="m-0">
          <div
            role="img"
            aria-label={`Over ${runs.length} starts: ${data.map(({ start, loaded, lines }) => `start ${start}: ${loaded} loaded, ${lines} lines of trouble`).join('; ')}`}
          >
            <RunsChart starts={data} />
          </div>
          <figcaption className="small quiet">
            Bars: files loaded, left scale. Dashed line: lines of trouble, right scale.
          </figcaption>
        </figure>
      </div>
    </section>
  );
}
