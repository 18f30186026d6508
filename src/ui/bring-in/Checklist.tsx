import type { ChecklistItem } from '@/core';

const STATE_WORDS: Record<ChecklistItem['state'], string> = { placed: 'by the app', settings: 'in Settings', yours: 'yours to do' };

/** A pack's read-me as a list of steps, each with what the app makes of it. */
export function Checklist({ steps }: { steps: readonly ChecklistItem[] }) {
  if (steps.length === 0) return null;
  return (
    <section aria-label="Step by step">
      <h3>Its read-me, step by step</h3>
      <ul className="steps-list">
        {steps.map(({ line, text, state, says }) => (
          <li key={`${line} ${says}`}>
            <span className={`step-state ${state}`}>{STATE_WORDS[state]}</span>
            <span className="grow">
              <span className="said">{text}</span> <span className="quiet small">line {line}</span>
              <br />
              <span className="quiet small">{says}</span>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
