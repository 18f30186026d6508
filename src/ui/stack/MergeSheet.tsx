'use client';

import { ArrowLeft } from 'lucide-react';
import { useState } from 'react';
import type { Decision, MergeConflict } from '@/core';
import { useEngine, useGame } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { oneOr, many, place } from '@/ui/shared/format';
import { Notice } from '@/ui/shared/Notice';
import { useDraft } from '@/ui/shared/useDraft';
import { useEscape } from '@/ui/shared/useEscape';
import type { MergeView } from '@/worker/contract';
import { CompareTexts } from './CompareTexts';
import type { StackView } from './stackView';
import { WholeMerge } from './WholeMerge';

/** Decisions about what is otherwise now. */
function Stale({ merge }: { merge: MergeView }) {
  const { act, busy } = useEngine();
  if (merge.stale.length === 0) return null;
  return (
    <Notice
      level="wrong"
      title={`${many(merge.stale.length, 'decision')} no longer ${oneOr(merge.stale.length, 'applies: what it was', 'apply: what they were')} about has changed (${merge.stale
        .slice(0, 3)
        .map(({ at }) => at)
        .join('; ')}).`}
      action={
        <Button
          size="sm"
          variant="outline-secondary"
          disabled={busy}
          onClick={() => void act((engine) => engine.change({ do: 'forget stale', merge: merge.id }))}
        >
          Forget {oneOr(merge.stale.length, 'it', 'them')}
        </Button>
      }
    />
  );
}

/** A file put together out of several packs': what it is made of, and what is still to be decided. */
export function MergeSheet({ id, show }: { id: string; show(view: StackView): void }) {
  const game = useGame();
  const { act, busy, snapshot } = useEngine();
  const merge = game.stack.merges.find((one) => one.id === id);
  if (!merge) return null;
  const sources = merge.sources.map(({ name }) => `“${name}”`);
  return (
    <div className="stackup scroll">
      <div className="row-of">
        <Button size="sm" variant="outline-secondary" onClick={() => show({ kind: 'file', target: merge.target })}>
          <ArrowLeft size={15} aria-hidden /> The file
        </Button>
        <h2 className="path grow">{place(merge.target, game.roots)}</h2>
        <Button
          size="sm"
          variant="outline-danger"
          disabled={busy}
          onClick={() => {
            show({ kind: 'file', target: merge.target });
            void act((engine) => engine.change({ do: 'drop merge', merge: id }));
          }}
        >
          Take the merge away
        </Button>
      </div>
      <p className="small m-0">
        Merged out of {sources.join(' and ')} {merge.way === 'keys' ? 'key by key' : 'line by line'}. It is made anew
        whenever one of them changes.
      </p>
      {merge.why && (
        <Notice level="wrong" title={`It stands aside now: ${merge.why}. The highest pack’s file is used instead.`} />
      )}
      <Stale merge={merge} />
      {merge.notices.map((notice) => (
        <p key={notice} className="small quiet m-0">
          {notice}
        </p>
      ))}
      <Conflicts merge={merge} />
      {!merge.why && <WholeMerge merge={merge} />}
      {merge.open === 0 && !merge.why && (
        <>
          <h3>What it changes in the game’s own file</h3>
          <CompareTexts target={merge.target} a="original" b={id} revision={snapshot?.revision} />
        </>
      )}
    </div>
  );
}

function Conflicts({ merge }: { merge: MergeView }) {
  const { act, busy } = useEngine();
  if (merge.total === 0)
    return merge.why ? null : (
      <Notice level="good" title="Nothing is in each other’s way: the merged file holds what each of them changes." />
    );
  const rest = (take: 'lower' | 'upper') =>
    void act((engine) => engine.change({ do: 'decide rest', merge: merge.id, take }));
  return (
    <>
      {merge.open > 0 && (
        <Notice
          level="wrong"
          title={`${many(merge.open, 'place')} ${oneOr(merge.open, 'wants', 'want')} a decision. Until then the merge stands aside, and the highest pack’s file is used.`}
          action={
            <span className="row-of flex-nowrap">
              <Button size="sm" variant="outline-secondary" disabled={busy} onClick={() => rest('upper')}>
                All from the higher
              </Button>
              <Button size="sm" variant="outline-secondary" disabled={busy} onClick={() => rest('lower')}>
                All from the lower
              </Button>
            </span>
          }
        />
      )}
      {merge.total > merge.conflicts.length && (
        <p className="small quiet m-0">
          The first {merge.conflicts.length} of {merge.total} are listed.
        </p>
      )}
      {merge.conflicts.map((conflict) => (
        <Conflict key={`${conflict.at} ${conflict.was}`} conflict={conflict} merge={merge} />
      ))}
    </>
  );
}

/** What can be taken for a place that both change. */
function optionsOf({ base, sides: [lower, upper] }: MergeConflict, way: MergeView['way']): Option[] {
  const both = `${lower.text ?? ''}${upper.text ?? ''}`;
  return [
    { take: 'upper', label: upper.name, text: upper.text },
    { take: 'lower', label: lower.name, text: lower.text },
    { take: 'base', label: 'As it was', text: base },
    ...(way === 'lines' ? [{ take: 'both' as const, label: 'Both, the lower one’s lines first', text: both }] : []),
  ];
}

interface Option {
  take: Exclude<Decision['take'], object>;
  label: string;
  text: string | undefined;
}

/** What the player writes in place of either. */
function OwnText(p: { at: string; own: string; onOwn(own: string): void; onUse(): void }) {
  const { at, own, onOwn, onUse } = p;
  return (
    <div className="row-of mt-1">
      <Form.Control
        as="textarea"
        rows={Math.min(6, own.split('\n').length)}
        size="sm"
        className="path grow"
        aria-label={`Your own text for ${at}`}
        value={own}
        onChange={(event) => onOwn(event.target.value)}
      />
      <Button size="sm" variant="primary" onClick={onUse}>
        Use my text
      </Button>
    </div>
  );
}

function Conflict({ conflict, merge }: { conflict: MergeConflict; merge: MergeView }) {
  const { act, busy } = useEngine();
  const { at, was, sides, taken } = conflict;
  const [writing, setWriting] = useState(false);
  useEscape(writing ? () => setWriting(false) : undefined);
  const begin = typeof taken === 'object' ? taken.text : (sides[1].text ?? '');
  const [own, setOwn] = useState(begin);
  const typed = { text: own, clean: own === begin };
  const { offer: kept } = useDraft(`your own text for ${at} in ${merge.target}`, typed, (text) => {
    setOwn(text);
    setWriting(true);
  });
  const decide = (take: Decision['take'] | undefined) =>
    void act((engine) => engine.change({ do: 'decide conflict', merge: merge.id, at, was, take }));
  return (
    <fieldset className={`sheet conflict ${taken === undefined ? 'open' : ''}`}>
      <legend className="small fw-semibold path">{at}</legend>
      {optionsOf(conflict, merge.way).map(({ take, label, text }) => (
        <Form.Check
          key={take}
          type="radio"
          name={`${merge.id} ${at}`}
          id={`${merge.id} ${at} ${take}`}
          checked={taken === take}
          disabled={busy}
          onChange={() => decide(take)}
          label={<Words label={label} text={text} />}
        />
      ))}
      {kept}
      {writing || typeof taken === 'object' ? (
        <OwnText at={at} own={own} onOwn={setOwn} onUse={() => decide({ text: own })} />
      ) : (
        <Button size="sm" variant="link" className="p-0 small" onClick={() => setWriting(true)}>
          Write it by hand…
        </Button>
      )}
      {taken !== undefined && (
        <Button size="sm" variant="link" className="p-0 small ms-3" onClick={() => decide(undefined)}>
          Decide later
        </Button>
      )}
    </fieldset>
  );
}

function Words({ label, text }: { label: string; text: string | undefined }) {
  return (
    <span className="row-of" style={{ columnGap: '0.6rem' }}>
      <span>{label}</span>
      <code className="conflict-text">
        {text === undefined ? '(nothing)' : text.replace(/[\r\n]+$/, '').slice(0, 600)}
      </code>
    </span>
  );
}
