import type { ClipboardEvent } from 'react';

/** Of a long last part only so many characters always stay in sight: enough for a number and an ending. */
const TAIL = 28;

/** The part of a path that is never cut: its last name, or the end of that. */
function tailOf(text: string): number {
  const slash = text.lastIndexOf('/', text.length - 2);
  return Math.max(slash, text.length - TAIL);
}

/** What is copied out of it is the path, whole and in one line. */
function copy(event: ClipboardEvent): void {
  const marked = getSelection()?.toString() ?? '';
  event.clipboardData.setData('text/plain', marked.replaceAll('\n', ''));
  event.preventDefault();
}

/** A path or name in one line: cut in the middle where there is too little room, and whole when it is pointed at. */
export function Path({ text, className = '' }: { text: string; className?: string }) {
  const at = tailOf(text);
  return (
    <span className={`path middle ${className}`} title={text} onCopy={copy}>
      {at > 0 && <span className="cut">{text.slice(0, at)}</span>}
      <span className="tail">{text.slice(Math.max(0, at))}</span>
    </span>
  );
}
