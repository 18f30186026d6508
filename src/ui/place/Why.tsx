import type { PlacedPart } from '@/core';

/** How much one thing that was seen counts, in words. */
const weightWord = (weight: number): string => {
  const much = Math.abs(weight);
  const word = much >= 6 ? 'strongly' : much >= 2.5 ? 'clearly' : 'a little';
  return weight > 0 ? `speaks ${word} for it` : `speaks ${word} against it`;
};

/** Everything that was seen for and against a place. */
export function Why({ evidence }: { evidence: NonNullable<PlacedPart['evidence']> }) {
  if (evidence.length === 0) return null;
  return (
    <details className="why">
      <summary>What speaks for this place{evidence.some(({ weight }) => weight < 0) ? ', and against it' : ''}</summary>
      <ul>
        {evidence.map(({ says, weight, line }) => (
          <li key={says + weight}>
            {says} {line !== undefined && <span className="quiet small">Line {line} of the read-me. </span>}
            <span className="quiet small">It {weightWord(weight)}.</span>
          </li>
        ))}
      </ul>
    </details>
  );
}
