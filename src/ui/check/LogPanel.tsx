'use client';

import { Fragment, useState } from 'react';
import { Nav } from 'react-bootstrap';
import { Button } from '@/ui/shared/controls';
import { Search } from '@/ui/shared/Search';
import { useGame } from '@/ui/engine';
import { count, many, place } from '@/ui/shared/format';
import type { LogView } from '@/worker/contract';
import { MakeRule } from './MakeRule';

/** Messages that are listed at once. */
const LISTED = 300;
const PARTS = ['folded', 'unknown', 'text'] as const;
const isTrouble = ({ level }: LogView['messages'][number]): boolean => level === 'warning' || level === 'error';
const LEVELS = { error: 'trouble', warning: 'warning', good: 'good', note: 'note' } as const;

/** What the game wrote: repeated lines folded, or as it stands. */
export function LogPanel({ log, old = false, given = false }: { log: LogView; old?: boolean; given?: boolean }) {
  const { roots } = useGame();
  const [part, setPart] = useState<'folded' | 'unknown' | 'text'>('folded');
  const [search, setSearch] = useState('');
  const [line, setLine] = useState<string>();
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const fits = (text: string) => words.every((word) => text.toLowerCase().includes(word));
  const messages = log.messages.filter(({ says, text }) => fits(`${says} ${text}`));
  const known = log.messages.reduce((sum, one) => sum + one.count, 0);
  return (
    <section className="sheet stackup" aria-label={given ? `Log ${log.target}` : 'Log'}>
      <div className="between">
        <h2>{given ? log.target : 'What the game wrote'}</h2>
        <span className="quiet small">
          {!given && (
            <>
              <span className="path">{place(log.target, roots)}</span>,{' '}
            </>
          )}
          {many(log.lines, 'line')},{' '}
          {log.byForm
            ? `${many(log.messages.length, 'different message')}, ${count(log.messages.filter(isTrouble).length)} of trouble`
            : `${count(known)} understood, ${count(log.unknown)} not`}
          {old && ', from before the latest deployment'}
        </span>
      </div>
      <div className="between">
        <Nav
          variant="underline"
          className="parts"
          activeKey={part}
          onSelect={(key) => setPart(key === 'unknown' || key === 'text' ? key : 'folded')}
          aria-label="Log"
        >
          {PARTS.filter((one) => one !== 'unknown' || !log.byForm).map((one) => (
            <Nav.Item key={one}>
              <Nav.Link eventKey={one} as="button" aria-current={part === one ? 'page' : undefined}>
                {{ folded: 'Folded', unknown: 'Not understood', text: 'As it stands' }[one]}
              </Nav.Link>
            </Nav.Item>
          ))}
        </Nav>
        {part !== 'text' && <Search label="Find in the log" value={search} onChange={setSearch} />}
      </div>
      {part === 'folded' && (
        <ul className="reasons log-lines" aria-label="Messages">
          {messages.length === 0 && <li className="quiet">No such message.</li>}
          {log.before > 0 && (
            <li className="quiet small">
              Since the last start, from line {count(log.before + 1)} on
              {messages[0] && messages[0].last <= log.before ? ': nothing' : ''}
            </li>
          )}
          {messages.slice(0, LISTED).map((message, i) => (
            <Fragment key={`${message.rule} ${message.says} ${message.first}`}>
              {log.before > 0 && message.last <= log.before && (messages[i - 1]?.last ?? Infinity) > log.before && (
                <li className="quiet small">From earlier starts</li>
              )}
              <Message message={message} onExplain={given ? undefined : setLine} />
            </Fragment>
          ))}
        </ul>
      )}
      {part === 'unknown' && (
        <ul className="reasons log-lines" aria-label="Lines not understood">
          {log.unknownLines.length === 0 && <li className="quiet">Every line was understood.</li>}
          {log.unknownLines
            .filter(({ text }) => fits(text))
            .slice(0, LISTED)
            .map((one) => (
              <li key={one.line} className="between">
                <span className="path small">
                  {one.line}: {one.text.slice(0, 300)}
                </span>
                {!given && (
                  <Button
                    size="sm"
                    variant="outline-secondary"
                    className="py-0"
                    aria-label={`Make a rule of line ${one.line}`}
                    onClick={() => setLine(one.text)}
                  >
                    Say what it means
                  </Button>
                )}
              </li>
            ))}
        </ul>
      )}
      {part !== 'text' && line !== undefined && <MakeRule key={line} line={line} onDone={() => setLine(undefined)} />}
      {part === 'text' && (
        <pre className="log" tabIndex={0} style={{ maxHeight: '24rem' }}>
          {log.text}
        </pre>
      )}
    </section>
  );
}

/** One message, folded. */
function Message({
  message: { rule, says, level, count: times, first, text, trace },
  onExplain,
}: {
  message: LogView['messages'][number];
  onExplain: ((line: string) => void) | undefined;
}) {
  return (
    <li>
      <span className={`mode level-${level}`}>{LEVELS[level]}</span> {says}{' '}
      <span className="small quiet">
        {times > 1 ? `${count(times)} times, first in` : ''} line {count(first)}
      </span>
      {trace.length > 0 && (
        <details className="small">
          <summary>{rule === 'plain' ? 'All of its lines' : 'Where in the program'}</summary>
          <pre className="log m-0">{[text, ...trace].join('\n')}</pre>
        </details>
      )}
      {rule === 'plain' && onExplain && (
        <Button
          size="sm"
          variant="link"
          className="py-0"
          aria-label={`Make a rule of line ${first}`}
          onClick={() => onExplain(text)}
        >
          Say what it means
        </Button>
      )}
    </li>
  );
}
