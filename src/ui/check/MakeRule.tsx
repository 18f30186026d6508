'use client';

import { useEffect, useRef, useState } from 'react';
import { ruleFromLine, type ChangingPart, type LogRule } from '@/core';
import { useEngine } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { many } from '@/ui/shared/format';
import { useDraft } from '@/ui/shared/useDraft';

/** The parts of a line that were marked as changing. */
function MarkedParts(p: { line: string; parts: readonly ChangingPart[]; onChange(parts: ChangingPart[]): void }) {
  const { line, parts, onChange } = p;
  if (parts.length === 0) return null;
  return (
    <ul className="facts small" aria-label="Parts that change">
      {parts.map((one) => (
        <li key={one.name}>
          <strong>{`{${one.name}}`}</strong> <span className="path">{line.slice(one.start, one.end)}</span>{' '}
          <button type="button" className="plain link" onClick={() => onChange(parts.filter((other) => other !== one))}>
            unmark
          </button>
        </li>
      ))}
    </ul>
  );
}

/** How many lines of the log a rule fits. */
function useFits(pattern: string): number | undefined {
  const { engine } = useEngine();
  const [fits, setFits] = useState<number>();
  useEffect(() => {
    let current = true;
    void engine?.ask({ ask: 'test rule', pattern }).then(
      (found) => current && setFits(found),
      () => current && setFits(undefined),
    );
    return () => {
      current = false;
    };
  }, [engine, pattern]);
  return fits;
}

/** The line with what is selected in it marked as changing; as it was where nothing new is selected. */
function marked(line: string, parts: ChangingPart[], input: HTMLInputElement | null): ChangingPart[] {
  const [start, end] = [input?.selectionStart ?? 0, input?.selectionEnd ?? 0];
  if (end <= start || parts.some((one) => start < one.end && one.start < end)) return parts;
  const text = line.slice(start, end);
  const name =
    /\.\w{2,5}$/.test(text) && !parts.some((one) => one.name === 'file') ? 'file' : `part${parts.length + 1}`;
  return [...parts, { start, end, name }];
}

/** How serious a line is. */
function LevelChoice({ level, onChange }: { level: LogRule['level']; onChange(level: LogRule['level']): void }) {
  return (
    <Form.Select
      size="sm"
      style={{ width: 'auto' }}
      aria-label="How serious it is"
      value={level}
      onChange={(event) => onChange(event.target.value as LogRule['level'])}
    >
      <option value="error">trouble</option>
      <option value="warning">warning</option>
      <option value="note">only to know</option>
      <option value="good">good news</option>
    </Form.Select>
  );
}

/** The line, and the button that marks what is selected in it. */
function LineToMark({ line, onMark }: { line: string; onMark(input: HTMLInputElement | null): void }) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <div className="row-of">
      <Form.Control
        ref={input}
        size="sm"
        readOnly
        className="path"
        aria-label="The line"
        value={line}
        style={{ maxWidth: '44rem' }}
      />
      <Button size="sm" variant="outline-primary" type="button" onClick={() => onMark(input.current)}>
        This part changes
      </Button>
    </div>
  );
}

/** What the line means, in the player's words. @param with the name of a part that can stand in it */
function Meaning({
  says,
  with: name,
  onChange,
}: {
  says: string;
  with?: string | undefined;
  onChange(says: string): void;
}) {
  return (
    <Form.Control
      size="sm"
      aria-label="What it means"
      placeholder={`What it means${name ? `, with {${name}} in it` : ''}`}
      value={says}
      maxLength={300}
      onChange={(event) => onChange(event.target.value)}
      style={{ maxWidth: '26rem' }}
    />
  );
}

/** A rule out of a line that the app does not know: the player marks what changes in it. */
export function MakeRule({ line, onDone }: { line: string; onDone(): void }) {
  const { act, busy } = useEngine();
  const [parts, setParts] = useState<ChangingPart[]>([]);
  const [says, setSays] = useState('');
  const [level, setLevel] = useState<LogRule['level']>('warning');
  const [id] = useState(() => `own-${Date.now().toString(36)}`);
  const { offer: kept, done: forget } = useDraft(
    `what “${line.slice(0, 80)}” means`,
    { text: says, clean: says.trim() === '' },
    setSays,
  );
  const close = () => {
    forget();
    onDone();
  };
  const rule = ruleFromLine(line, parts, { id, level, says: says.trim() === '' ? line.slice(0, 200) : says.trim() });
  const fits = useFits(rule.pattern);
  return (
    <Form
      className="notice note stackup"
      aria-label="A rule for this line"
      onSubmit={(event) => {
        event.preventDefault();
        void act(async (remote) => {
          await remote.change({ do: 'add log rule', rule });
          return true;
        }).then((done) => done && close());
      }}
    >
      {kept}
      <span>Select what changes from line to line, and mark it. Numbers may change anyway.</span>
      <LineToMark line={line} onMark={(input) => setParts(marked(line, parts, input))} />
      <MarkedParts line={line} parts={parts} onChange={setParts} />
      <div className="row-of">
        <LevelChoice level={level} onChange={setLevel} />
        <Meaning says={says} with={parts[0]?.name} onChange={setSays} />
        <Button size="sm" type="submit" disabled={busy || says.trim() === '' || fits === undefined || fits === 0}>
          Take the rule
        </Button>
        <Button size="sm" variant="outline-secondary" type="button" onClick={close}>
          Leave it
        </Button>
        <span className="small quiet" role="status">
          {fits === undefined ? '' : `It knows ${many(fits, 'line')} of this log.`}
        </span>
      </div>
    </Form>
  );
}
