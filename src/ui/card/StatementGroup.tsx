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

/** Which sentence is being changed, and what it can be changed with. */
interface Changing {
  choices: Choices;
  changing: string | undefined;
  onChanging(key: string | undefined): void;
}

/** A sentence with its blanks open. */
function Change({ sentence, choices, onChanging }: { sentence: Sentence } & Omit<Changing, 'changing'>) {
  return (
    <Tell
      key={sentence.at.join()}
      form={sentence.form}
      at={sentence.at}
      values={sentence.values}
      choices={choices}
      onDone={() => onChanging(undefined)}
    />
  );
}

/** One of the small buttons beside a sentence; its name says which sentence it means. */
function Beside({ does, says, onClick }: { does: string; says: string; onClick(): void }) {
  const { busy } = useEngine();
  return (
    <Button
      size="sm"
      variant="outline-secondary"
      disabled={busy}
      aria-label={`${does.replace('…', '')}: ${says}`}
      onClick={onClick}
    >
      {does}
    </Button>
  );
}

/** What the player or a card told. */
function Told({
  sentence,
  card,
  choices,
  changing,
  onChanging,
}: { sentence: Sentence; card: string | undefined } & Changing) {
  const { act } = useEngine();
  const { roots } = useGame();
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
    <li className="stackup">
      <div className="between">
        <span className="grow">
          {says}{' '}
          <span className="quiet small">
            ({card === undefined ? 'you, or the card' : `from the card of “${card}”`})
          </span>
        </span>
        <span className="row-of flex-nowrap">
          <Beside does="Change…" says={says} onClick={() => onChanging(changing === key ? undefined : key)} />
          <Beside
            does="Take it away"
            says={says}
            onClick={() => void act((one) => one.change({ do: 'untell', at: sentence.at }))}
          />
        </span>
      </div>
      {changing === key && <Change sentence={sentence} choices={choices} onChanging={onChanging} />}
    </li>
  );
}

/** Why the app thinks so, with the place of each reason. */
function Evidence({ evidence }: Pick<Statement, 'evidence'>) {
  const { roots } = useGame();
  return (
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
  );
}

/** What the app found, to be agreed to, refused or changed. */
function Found({
  statement,
  linked,
  choices,
  changing,
  onChanging,
}: { statement: Statement; linked: Sentence[] } & Changing) {
  const { act } = useEngine();
  const { id, says, evidence, standing } = statement;
  const refused = standing === 'refused';
  // What stands there for many things at once has no one sentence to change.
  const [one, ...more] = refused ? [] : linked.filter(({ form }) => !['key', 'list'].includes(form));
  const sentence = more.length === 0 ? one : undefined;
  const can = canBeAnswered(statement);
  const set = (to: Statement['standing']) =>
    void act((engine) => engine.change({ do: 'set standing', id, standing: to }));
  return (
    <li className={`stackup ${refused ? 'refused' : ''}`}>
      <div className="between">
        <div className="grow">
          <span className="says">{says}</span> <span className="quiet small">({STANDING_WORDS[standing]})</span>
          <Evidence evidence={evidence} />
        </div>
        <span className="row-of flex-nowrap">
          {sentence && (
            <Beside does="Change…" says={says} onClick={() => onChanging(changing === id ? undefined : id)} />
          )}
          {can && standing === 'found' && <Beside does="So it is" says={says} onClick={() => set('confirmed')} />}
          {can && (
            <Beside
              does={refused ? 'It is so after all' : 'That is not so'}
              says={says}
              onClick={() => set(refused ? 'confirmed' : 'refused')}
            />
          )}
        </span>
      </div>
      {changing === id && sentence && <Change sentence={sentence} choices={choices} onChanging={onChanging} />}
    </li>
  );
}

export function Group({ title, statements, sentences, choices, linked, from }: GroupProps) {
  const [all, setAll] = useState(false);
  const [changing, setChanging] = useState<string>();
  if (statements.length + sentences.length === 0) return null;
  const shown = { choices, changing, onChanging: setChanging };
  // What another card brought is looked at first.
  const told = [...sentences]
    .sort((a, b) => Number(from(b) !== undefined) - Number(from(a) !== undefined))
    .map((one) => <Told key={one.at.join()} sentence={one} card={from(one)} {...shown} />);
  const found = statements.map((one) => <Found key={one.id} statement={one} linked={linked(one)} {...shown} />);
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
