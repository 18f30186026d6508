'use client';

import { useEffect, useRef, useState } from 'react';
import { ruleFromLine, type ChangingPart, type LogRule } from '@/core';
import { useEngine } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { many } from '@/ui/shared/format';
import { useDraft } from '@/ui/shared/useDraft';

/** A rule out of a line that the app does not know: the player marks what changes in it. */
export function MakeRule({ line, onDone }: { line: string; onDone(): void }) {
  const { act, busy, engine } = useEngine();
  const [parts, setParts] = useState<ChangingPart[]>([]);
  const [says, setSays] = useState('');
  const [level, setLevel] = useState<LogRule['level']>('warning');
  const [fits, setFits] = useState<number>();
  const [id] = useState(() => `own-${Date.now().toString(36)}`);
  const input = useRef<HTMLInputElement>(null);
  const { offer: kept, done: forget } = useDraft(
    `what “${line.slice(0, 80)}” means`,
    says,
    says.trim() === '',
    setSays,
  );
  const close = () => {
    forget();
    onDone();
  };
  const rule = ruleFromLine(line, parts, { id, level, says: says.trim() === '' ? line.slice(0, 200) : says.trim() });
  useEffect(() => {
    let current = true;
    void engine?.ask({ ask: 'test rule', pattern: rule.pattern }).then(
      (found) => current && setFits(found),
      () => current && setFits(undefined),
    );
    return () => {
      current = false;
    };
  }, [engine, rule.pattern]);
  const mark = () => {
    const [start, end] = [input.current?.selectionStart ?? 0, input.current?.selectionEnd ?? 0];
    if (end <= start || parts.some((one) => start < one.end && one.start < end)) return;
    const text = line.slice(start, end);
    const name =
      /\.\w{2,5}$/.test(text) && !parts.some((one) => one.name === 'file') ? 'file' : `part${parts.length + 1}`;
    setParts([...parts, { start, end, name }]);
    setSays(says === '' ? '' : says);
  };
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
        <Button size="sm" variant="outline-primary" type="button" onClick={mark}>
          This part changes
        </Button>
      </div>
      {parts.length > 0 && (
        <ul className="facts small" aria-label="Parts that change">
          {parts.map((one) => (
            <li key={one.name}>
              <strong>{`{${one.name}}`}</strong> <span className="path">{line.slice(one.start, one.end)}</span>{' '}
              <button
                type="button"
                className="plain link"
                onClick={() => setParts(parts.filter((other) => other !== one))}
              >
                unmark
              </button>
            </li>
          ))}
        </ul>
      )}
      <div className="row-of">
        <Form.Select
          size="sm"
          style={{ width: 'auto' }}
          aria-label="How serious it is"
          value={level}
          onChange={(event) => setLevel(event.target.value as LogRule['level'])}
        >
          <option value="error">trouble</option>
          <option value="warning">warning</option>
          <option value="note">only to know</option>
          <option value="good">good news</option>
        </Form.Select>
        <Form.Control
          size="sm"
          aria-label="What it means"
          placeholder={`What it means${parts[0] ? `, with {${parts[0].name}} in it` : ''}`}
          value={says}
          maxLength={300}
          onChange={(event) => setSays(event.target.value)}
          style={{ maxWidth: '26rem' }}
        />
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
