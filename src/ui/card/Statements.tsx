'use client';

import { useEffect, useState } from 'react';
import {
  SENTENCE_FORMS,
  formOf,
  saidOnCard,
  sentenceKey,
  sentencesIn,
  type GameCard,
  type SentenceGroup,
  type Statement,
} from '@/core';
import { useEngine, useGame } from '@/ui/engine';
import { Form } from '@/ui/shared/controls';
import { Notice } from '@/ui/shared/Notice';
import { many, oneOr } from '@/ui/shared/format';
import type { TakenCard } from '@/worker/contract';
import { Group } from './StatementGroup';
import { Tell, type Choices } from './Tell';

/** The groups in the order of use, and what is found of each. */
const GROUPS: { group: SentenceGroup; title: string; about: readonly Statement['about']['what'][] }[] = [
  {
    group: 'where packs go',
    title: 'Where packs go',
    about: ['place', 'for packs', 'family', 'ending', 'archives', 'archive', 'languages'],
  },
  { group: 'what turns them on', title: 'What turns them on', about: ['numbered', 'search', 'list', 'names'] },
  { group: 'settings', title: 'Settings', about: ['settings', 'values of things'] },
  { group: 'titles and profiles', title: 'Titles and profiles', about: ['ids', 'profiles'] },
  { group: 'logs', title: 'Logs', about: ['log'] },
  { group: 'what it borrows from', title: 'What it borrows from', about: ['textures', 'portable'] },
  { group: 'folders', title: 'Folders', about: ['root'] },
];

/** What can be told about any game, by the groups. */
function TellMore({ telling, onTell }: { telling: string; onTell(form: string): void }) {
  return (
    <div className="row-of">
      <Form.Label htmlFor="tell-more" className="m-0">
        Tell the app something more:
      </Form.Label>
      <Form.Select
        id="tell-more"
        size="sm"
        style={{ width: 'auto', maxWidth: '24rem' }}
        value={telling}
        onChange={(event) => onTell(event.target.value)}
      >
        <option value="">choose what it is about…</option>
        {GROUPS.map(({ group, title }) => (
          <optgroup key={group} label={title}>
            {SENTENCE_FORMS.filter((form) => form.group === group).map(({ id, title: about }) => (
              <option key={id} value={id}>
                {about}
              </option>
            ))}
          </optgroup>
        ))}
      </Form.Select>
    </div>
  );
}

/**
 * How this game works, in sentences: what the app found and why, what the player told it, and what more can be told.
 */
export function Statements({ card }: { card: GameCard }) {
  const { engine, snapshot } = useEngine();
  const { id: game } = useGame();
  const [statements, setStatements] = useState<Statement[]>([]);
  const [choices, setChoices] = useState<Omit<Choices, 'card'>>({ folders: [], files: [] });
  const [taken, setTaken] = useState<TakenCard>();
  const [telling, setTelling] = useState('');
  const revision = snapshot?.revision;
  useEffect(() => {
    let current = true;
    void engine?.ask({ ask: 'statements' }).then((found) => current && setStatements(found));
    void engine?.ask({ ask: 'taken card' }).then((found) => current && setTaken(found));
    return () => {
      current = false;
    };
  }, [engine, game, revision]);
  useEffect(() => {
    let current = true;
    void Promise.all([engine?.ask({ ask: 'folders of game' }), engine?.ask({ ask: 'files of game' })]).then(
      ([folders = [], files = []]) => current && setChoices({ folders, files }),
    );
    return () => {
      current = false;
    };
  }, [engine, game]);
  const all: Choices = { ...choices, card };
  const sentences = sentencesIn(card);
  const came = new Set(taken?.came);
  const shown = new Set(statements.flatMap((one) => saidOnCard(one, sentences)));
  return (
    <section className="sheet stackup" aria-label="What the app knows of this game">
      <h2 className="m-0">What the app knows of this game</h2>
      <TellMore telling={telling} onTell={setTelling} />
      {taken && <Taken taken={taken} here={sentences.filter((one) => came.has(sentenceKey(one))).length} />}
      {telling !== '' && <Tell key={telling} form={telling} choices={all} onDone={() => setTelling('')} />}
      {GROUPS.map(({ group, title, about }) => (
        <Group
          key={group}
          title={title}
          choices={all}
          from={(one) => (came.has(sentenceKey(one)) ? taken?.title : undefined)}
          linked={(statement) => saidOnCard(statement, sentences)}
          statements={statements.filter((one) => about.includes(one.about.what))}
          sentences={sentences.filter((one) => formOf(one.form)?.group === group && !shown.has(one))}
        />
      ))}
    </section>
  );
}

/** What a card from a file brought, the differences first. */
function Taken({ taken: { title, file, came, went }, here }: { taken: TakenCard; here: number }) {
  return (
    <Notice
      level="note"
      title={
        came.length + went.length === 0
          ? `The card of “${title}” says what the app knew already`
          : `From the card of “${title}”: ${many(came.length, 'sentence')} that the app had not`
      }
    >
      <p className="m-0">
        It was taken from <span className="path">{file}</span>.{' '}
        {here > 0 &&
          `What it brought stands first in each group and says so${here < came.length ? `; ${many(came.length - here, 'sentence')} of it ${oneOr(came.length - here, 'has', 'have')} been changed since` : ''}.`}
      </p>
      {went.length > 0 && (
        <details className="small">
          <summary>{many(went.length, 'sentence')} that the app had found or you had told went for it</summary>
          <ul className="reasons m-0">
            {went.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        </details>
      )}
    </Notice>
  );
}
