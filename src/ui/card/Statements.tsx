'use client';

import { Undo2 } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { SENTENCE_FORMS, canBeAnswered, formOf, saidAs, saidOnCard, sentenceKey, sentencesIn, type GameCard, type Sentence, type SentenceGroup, type Statement } from '@/core';
import { useEngine, useGame } from '@/ui/engine';
import { many, place } from '@/ui/shared/format';
import { Notice } from '@/ui/shared/Notice';
import type { TakenCard } from '@/worker/api';
import { Tell, type Choices } from './Tell';

const STANDING_WORDS: Record<Statement['standing'], string> = { found: 'found', confirmed: 'you agreed', refused: 'you said no' };

/** The groups in the order of use, and what is found of each. */
const GROUPS: { group: SentenceGroup; title: string; about: readonly Statement['about']['what'][] }[] = [
  { group: 'where packs go', title: 'Where packs go', about: ['place', 'for packs', 'family', 'ending', 'archives', 'archive', 'languages'] },
  { group: 'what turns them on', title: 'What turns them on', about: ['numbered', 'search', 'list'] },
  { group: 'settings', title: 'Settings', about: ['settings', 'values of things'] },
  { group: 'titles and profiles', title: 'Titles and profiles', about: ['ids', 'profiles'] },
  { group: 'logs', title: 'Logs', about: ['log'] },
  { group: 'what it borrows from', title: 'What it borrows from', about: ['textures', 'portable'] },
  { group: 'folders', title: 'Folders', about: ['root'] },
];
/** So many of a group are shown at first. */
const SHOWN = 6;

/** How this game works, in sentences: what the app found and why, what the player told it, and what more can be told. */
export function Statements({ card }: { card: GameCard }) {
  const { engine, act, busy, snapshot } = useEngine();
  const { id: game } = useGame();
  const [statements, setStatements] = useState<Statement[]>([]);
  const [choices, setChoices] = useState<Omit<Choices, 'card'>>({ folders: [], files: [] });
  const [last, setLast] = useState<string>();
  const [taken, setTaken] = useState<TakenCard>();
  const [telling, setTelling] = useState('');
  const revision = snapshot?.revision;
  useEffect(() => {
    let current = true;
    void engine?.statements().then((found) => current && setStatements(found));
    void engine?.lastTold().then((found) => current && setLast(found));
    void engine?.takenCard().then((found) => current && setTaken(found));
    return () => {
      current = false;
    };
  }, [engine, game, revision]);
  useEffect(() => {
    let current = true;
    void Promise.all([engine?.gameFolders(), engine?.gameFiles()]).then(([folders = [], files = []]) => current && setChoices({ folders, files }));
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
      <div className="between">
        <h2 className="m-0">What the app knows of this game</h2>
        {last !== undefined && (
          <Button size="sm" variant="outline-secondary" disabled={busy} title={last} onClick={() => void act((one) => one.undoTelling())}>
            <Undo2 size={15} aria-hidden /> Take back the last change
          </Button>
        )}
      </div>
      <div className="row-of">
        <Form.Label htmlFor="tell-more" className="m-0">
          Tell the app something more:
        </Form.Label>
        <Form.Select id="tell-more" size="sm" style={{ width: 'auto', maxWidth: '24rem' }} value={telling} onChange={(event) => setTelling(event.target.value)}>
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
      {taken && <Taken taken={taken} here={sentences.filter((one) => came.has(sentenceKey(one))).length} />}
      {telling !== '' && <Tell key={telling} form={telling} choices={all} onDone={() => setTelling('')} />}
      {GROUPS.map(({ group, title, about }) => (
        <Group
          key={group} title={title} choices={all} from={(one) => (came.has(sentenceKey(one)) ? taken?.title : undefined)} linked={(statement) => saidOnCard(statement, sentences)}
          statements={statements.filter((one) => about.includes(one.about.what))} sentences={sentences.filter((one) => formOf(one.form)?.group === group && !shown.has(one))}
        />
      ))}
    </section>
  );
}

interface GroupProps {
  title: string;
  statements: readonly Statement[];
  sentences: readonly Sentence[];
  choices: Choices;
  linked(statement: Statement): Sentence[];
  /** Whose card it came from, where it was taken in from a file. */
  from(sentence: Sentence): string | undefined;
}

/** What a card from a file brought, the differences first. */
function Taken({ taken: { title, file, came, went }, here }: { taken: TakenCard; here: number }) {
  return (
    <Notice level="note" title={came.length + went.length === 0 ? `The card of “${title}” says what the app knew already` : `From the card of “${title}”: ${many(came.length, 'sentence')} that the app had not`}>
      <p className="m-0">
        It was taken from <span className="path">{file}</span>. {here > 0 && `What it brought stands first in each group and says so${here < came.length ? `; ${many(came.length - here, 'sentence')} of it ${came.length - here === 1 ? 'has' : 'have'} been changed since` : ''}.`}
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

function Group({ title, statements, sentences, choices, linked, from }: GroupProps) {
  const { act, busy } = useEngine();
  const { roots } = useGame();
  const [all, setAll] = useState(false);
  const [changing, setChanging] = useState<string>();
  if (statements.length + sentences.length === 0) return null;
  const change = (sentence: Sentence) => <Tell key={sentence.at.join()} form={sentence.form} at={sentence.at} values={sentence.values} choices={choices} onDone={() => setChanging(undefined)} />;
  // What another card brought is looked at first.
  const told = [...sentences].sort((a, b) => Number(from(b) !== undefined) - Number(from(a) !== undefined)).map((sentence) => {
    const card = from(sentence);
    const form = formOf(sentence.form);
    const says = form ? saidAs(form, sentence.values, ({ kind }, value) => (['file', 'folder', 'settings file'].includes(kind) ? `“${place(value, roots)}”` : value)) : '';
    const key = sentence.at.join();
    return (
      <li key={key} className="stackup">
        <div className="between">
          <span className="grow">
            {says} <span className="quiet small">({card === undefined ? 'you, or the card' : `from the card of “${card}”`})</span>
          </span>
          <span className="row-of flex-nowrap">
            <Button size="sm" variant="outline-secondary" disabled={busy} aria-label={`Change: ${says}`} onClick={() => setChanging(changing === key ? undefined : key)}>
              Change…
            </Button>
            <Button size="sm" variant="outline-secondary" disabled={busy} aria-label={`Take it away: ${says}`} onClick={() => void act((one) => one.untell(sentence.at))}>
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
    const [one, ...more] = standing === 'refused' ? [] : linked(statement).filter(({ form }) => !['key', 'list'].includes(form));
    const sentence = more.length === 0 ? one : undefined;
    const can = canBeAnswered(statement);
    const set = (to: Statement['standing']) => void act((one) => one.setStanding(id, to));
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
                    {one.says} {'target' in one.source && <span className="path">{place(one.source.target, roots)}{'line' in one.source && one.source.line !== undefined ? `, line ${one.source.line}` : ''}</span>}
                    {'pack' in one.source && <span className="path">{one.source.pack}{'line' in one.source ? `, line ${one.source.line}` : ''}</span>}
                  </li>
                ))}
              </ul>
            </details>
          </div>
          <span className="row-of flex-nowrap">
            {sentence && (
              <Button size="sm" variant="outline-secondary" disabled={busy} aria-label={`Change: ${says}`} onClick={() => setChanging(changing === id ? undefined : id)}>
                Change…
              </Button>
            )}
            {can && standing === 'found' && (
              <Button size="sm" variant="outline-secondary" disabled={busy} aria-label={`So it is: ${says}`} onClick={() => set('confirmed')}>
                So it is
              </Button>
            )}
            {can && (
              <Button size="sm" variant="outline-secondary" disabled={busy} aria-label={standing === 'refused' ? `It is so after all: ${says}` : `That is not so: ${says}`} onClick={() => set(standing === 'refused' ? 'confirmed' : 'refused')}>
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
