'use client';

import { useState } from 'react';
import { canBeAnswered, formOf, saidAs, shownBlank, type Sentence, type Statement } from '@/core';
import { useEngine, useGame } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { place } from '@/ui/shared/format';
import { Tell, type Choices } from './Tell';

const STANDING_WORDS: Record<Statement['standing'], string> = {
  found: 'found',
  confirmed: 'you agreed',
  refused: 'you said no',
};

/** So many of a group are shown at first. */
const SHOWN = 6;

interface GroupProps {
  title: string;
  statements: readonly Statement[];
  sentences: readonly Sentence[];
  choices: Choices;
  linked(statement: Statement): Sentence[];
  /** Whose card it came from, where it was taken in from a file. */
  from(sentence: Sentence): string | undefined;
}

export function Group({ title, statements, sentences, choices, linked, from }: GroupProps) {
  const { act, busy } = useEngine();
  const { roots } = useGame();
  const [all, setAll] = useState(false);
  const [changing, setChanging] = useState<string>();
  if (statements.length + sentences.length === 0) return null;
  const change = (sentence: Sentence) => (
    <Tell
      key={sentence.at.join()}
      form={sentence.form}
      at={sentence.at}
      values={sentence.values}
      choices={choices}
      onDone={() => setChanging(undefined)}
    />
  );
  // What another card brought is looked at first.
  const told = [...sentences]
    .sort((a, b) => Number(from(b) !== undefined) - Number(from(a) !== undefined))
    .map((sentence) => {
      const card = from(sentence);
      const form = formOf(sentence.form);
      const says = form
        ? saidAs(form, sentence.values, ({ kind }, value) =>
            ['file', 'folder', 'settings file'].includes(kind)
              ? `“${place(value, roots)}”`
              : shownBlank(kind, value, roots),
          )
        : '';
      const key = sentence.at.join();
      return (
        <li key={key} className="stackup">
          <div className="between">
            <span className="grow">
              {says}{' '}
              <span className="quiet small">
                ({card === undefined ? 'you, or the card' : `from the card of “${card}”`})
              </span>
            </span>
            <span className="row-of flex-nowrap">
              <Button
                size="sm"
                variant="outline-secondary"
                disabled={busy}
                aria-label={`Change: ${says}`}
                onClick={() => setChanging(changing === key ? undefined : key)}
              >
                Change…
              </Button>
              <Button
                size="sm"
                variant="outline-secondary"
                disabled={busy}
                aria-label={`Take it away: ${says}`}
                onClick={() => void act((one) => one.change({ do: 'untell', at: sentence.at }))}
              >
                Take it away
              </Button>
            </span>
          </div>
          {changing === key && change(sentence)}
        </li>
      );
    });
  const found = statements.map((statement) => {
    const { id, says, evidence, standing } = statement;
    // What stands there for many things at once has no one sentence to change.
    const [one, ...more] =
      standing === 'refused' ? [] : linked(statement).filter(({ form }) => !['key', 'list'].includes(form));
    const sentence = more.length === 0 ? one : undefined;
    const can = canBeAnswered(statement);
    const set = (to: Statement['standing']) => void act((one) => one.change({ do: 'set standing', id, standing: to }));
    return (
      <li key={id} className={`stackup ${standing === 'refused' ? 'refused' : ''}`}>
        <div className="between">
          <div className="grow">
            <span className="says">{says}</span> <span className="quiet small">({STANDING_WORDS[standing]})</span>
            <details className="small quiet">
              <summary>Why the app thinks so</summary>
              <ul className="reasons m-0">
                {evidence.map((one) => (
                  <li key={one.says}>
                    {one.says}{' '}
                    {'target' in one.source && (
                      <span className="path">
                        {place(one.source.target, roots)}
                        {'line' in one.source && one.source.line !== undefined ? `, line ${one.source.line}` : ''}
                      </span>
                    )}
                    {'pack' in one.source && (
                      <span className="path">
                        {one.source.pack}
                        {'line' in one.source ? `, line ${one.source.line}` : ''}
                      </span>
                    )}
                  </li>
                ))}
              </ul>
            </details>
          </div>
          <span className="row-of flex-nowrap">
            {sentence && (
              <Button
                size="sm"
                variant="outline-secondary"
                disabled={busy}
                aria-label={`Change: ${says}`}
                onClick={() => setChanging(changing === id ? undefined : id)}
              >
                Change…
              </Button>
            )}
            {can && standing === 'found' && (
              <Button
                size="sm"
                variant="outline-secondary"
                disabled={busy}
                aria-label={`So it is: ${says}`}
                onClick={() => set('confirmed')}
              >
                So it is
              </Button>
            )}
            {can && (
              <Button
                size="sm"
                variant="outline-secondary"
                disabled={busy}
                aria-label={standing === 'refused' ? `It is so after all: ${says}` : `That is not so: ${says}`}
                onClick={() => set(standing === 'refused' ? 'confirmed' : 'refused')}
              >
                {standing === 'refused' ? 'It is so after all' : 'That is not so'}
              </Button>
            )}
          </span>
        </div>
        {changing === id && sentence && change(sentence)}
      </li>
    );
  });
  const list = [...told, ...found];
  return (
    <div>
      <h3 className="h6 m-0">{title}</h3>
      <ul className="statements" aria-label={title}>
        {all ? list : list.slice(0, SHOWN)}
      </ul>
      {list.length > SHOWN && (
        <Button size="sm" variant="link" className="p-0" onClick={() => setAll(!all)}>
          {all ? 'Show fewer' : `Show all ${list.length}`}
        </Button>
      )}
    </div>
  );
}
