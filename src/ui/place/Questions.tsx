'use client';

import type { Question } from '@/core';
import { useEngine } from '@/ui/engine';
import { Form } from '@/ui/shared/controls';
import type { PackView } from '@/worker/contract';

/** What only the player can decide about a pack. */
export function Questions({ pack }: { pack: PackView }) {
  const { questions } = pack.placement;
  if (questions.length === 0) return null;
  return (
    <div className="questions">
      {questions.map((question) => (
        <Ask key={question.id} pack={pack} question={question} />
      ))}
    </div>
  );
}

function Ask({ pack, question }: { pack: PackView; question: Question }) {
  const { act, busy } = useEngine();
  const { id, kind, title, why, options, suggested, answer, open } = question;
  const choose = (option: string, on: boolean) => {
    const next = kind === 'one' ? [option] : on ? [...answer, option] : answer.filter((one) => one !== option);
    void act((engine) => engine.change({ do: 'answer question', layer: pack.layer, question: id, answer: next }));
  };
  return (
    <fieldset className={`notice ${open ? 'wrong' : 'note'}`}>
      <div className="grow">
        <legend className="h3">{title}</legend>
        <p className="small">{why}</p>
        <div className="options">
          {options.map((option) => (
            <Form.Check
              key={option.id}
              type={kind === 'one' ? 'radio' : 'checkbox'}
              name={`${pack.layer} ${id}`}
              id={`${pack.layer} ${id} ${option.id}`}
              checked={answer.includes(option.id)}
              disabled={busy}
              onChange={(event) => choose(option.id, event.target.checked)}
              label={
                <>
                  <strong>{option.label}</strong>{' '}
                  <span className="quiet small">
                    {option.says}
                    {suggested.includes(option.id) && options.length > suggested.length ? ' (suggested)' : ''}
                  </span>
                </>
              }
            />
          ))}
        </div>
      </div>
    </fieldset>
  );
}
