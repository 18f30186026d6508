import type { Warning } from '@/core';
import { many } from '@/ui/shared/format';
import { Notice } from '@/ui/shared/Notice';

/** What to know before anything is written. The serious things are open, the rest folds away. */
export function Warnings({ warnings }: { warnings: Warning[] }) {
  const wrong = warnings.filter(({ level }) => level === 'wrong');
  const notes = warnings.filter(({ level }) => level === 'note');
  return (
    <>
      {wrong.map((warning) => (
        <Notice key={`${warning.code} ${warning.says}`} level="wrong" title={warning.says}>
          <p>{warning.next}</p>
          <Files warning={warning} />
        </Notice>
      ))}
      {notes.length > 0 && (
        <details className="small">
          <summary>{many(notes.length, 'more thing', 'more things')} to know</summary>
          {notes.map((warning) => (
            <p className="m-0 mt-1" key={`${warning.code} ${warning.says}`}>
              <strong>{warning.says}</strong> {warning.next} <Files warning={warning} />
            </p>
          ))}
        </details>
      )}
    </>
  );
}

function Files({ warning: { paths, files } }: { warning: Warning }) {
  return (
    <p className="small quiet m-0 path whole-path">
      {paths.slice(0, 3).join(', ')}
      {files > 3 && ` and ${files - 3} more`}
    </p>
  );
}
