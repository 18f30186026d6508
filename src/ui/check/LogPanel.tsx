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
type Part = (typeof PARTS)[number];
type Explain = ((line: string) => void) | undefined;
const isTrouble = ({ level }: LogView['messages'][number]): boolean => level === 'warning' || level === 'error';
const LEVELS = { error: 'trouble', warning: 'warning', good: 'good', note: 'note' } as const;

/** What the game wrote: repeated lines folded, or as it stands. */
export function LogPanel({ log, old = false, given = false }: { log: LogView; old?: boolean; given?: boolean }) {
  const [part, setPart] = useState<Part>('folded');
  const [search, setSearch] = useState('');
  const [line, setLine] = useState<string>();
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const fits = (text: string) => words.every((word) => text.toLowerCase().includes(word));
  return (
    <section className="sheet stackup" aria-label={given ? `Log ${log.target}` : 'Log'}>
      <LogHead log={log} old={old} given={given} />
      <div className="between">
        <LogParts log={log} part={part} onPart={setPart} />
        {part !== 'text' && <Search label="Find in the log" value={search} onChange={setSearch} />}
      </div>
      {part === 'folded' && <Folded log={log} fits={fits} onExplain={given ? undefined : setLine} />}
      {part === 'unknown' && (
        <NotUnderstood lines={log.unknownLines} fits={fits} onExplain={given ? undefined : setLine} />
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

/** Folded, not understood, or as it stands. */
function LogParts({ log, part, onPart }: { log: LogView; part: Part; onPart(part: Part): void }) {
  return (
    <Nav
      variant="underline"
      className="parts"
      activeKey={part}
      onSelect={(key) => onPart(key === 'unknown' || key === 'text' ? key : 'folded')}
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
  );
}

/** Which log it is, how long it is, and how much of it was understood. */
function LogHead({ log, old, given }: { log: LogView; old: boolean; given: boolean }) {
  const { roots } = useGame();
  const known = log.messages.reduce((sum, one) => sum + one.count, 0);
  return (
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
  );
}

/** Each different message once, the latest start's first. */
function Folded({ log, fits, onExplain }: { log: LogView; fits(text: string): boolean; onExplain: Explain }) {
  const messages = log.messages.filter(({ says, text }) => fits(`${says} ${text}`));
  return (
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
          <Message message={message} onExplain={onExplain} />
        </Fragment>
      ))}
    </ul>
  );
}

/** The lines that no rule knows; each can be explained. */
function NotUnderstood(p: { lines: LogView['unknownLines']; fits(text: string): boolean; onExplain: Explain }) {
  const { lines, fits, onExplain } = p;
  return (
    <ul className="reasons log-lines" aria-label="Lines not understood">
      {lines.length === 0 && <li className="quiet">Every line was understood.</li>}
      {lines
        .filter(({ text }) => fits(text))
        .slice(0, LISTED)
        .map((one) => (
          <li key={one.line} className="between">
            <span className="path small">
              {one.line}: {one.text.slice(0, 300)}
            </span>
            {onExplain && (
              <Button
                size="sm"
                variant="outline-secondary"
                className="py-0"
                aria-label={`Make a rule of line ${one.line}`}
                onClick={() => onExplain(one.text)}
              >
                Say what it means
              </Button>
            )}
          </li>
        ))}
    </ul>
  );
}

/** One message, folded. */
function Message({
  message: { rule, says, level, count: times, first, text, trace },
  onExplain,
}: {
  message: LogView['messages'][number];
  onExplain: Explain;
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
