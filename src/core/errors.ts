import { ERRORS } from './errorTable';

export { ERRORS } from './errorTable';

export type ErrorCode = keyof typeof ERRORS;

/** A failure as plain data: what crosses the worker border and what the interface shows. */
export interface Failure {
  code: ErrorCode;
  /** One sentence for the player. */
  says: string;
  /** What to do next, one or two sentences. */
  next: string;
  details: Record<string, string>;
}

const fill = (text: string, details: Record<string, string>): string =>
  text.replace(/\{(\w+)\}/g, (whole, word: string) => details[word] ?? whole);

/** An error out of the table above. `failure` is what to show. */
export class SatchelError extends Error {
  override readonly name: string = 'SatchelError';
  readonly failure: Failure;

  constructor(
    readonly code: ErrorCode,
    details: Record<string, string> = {},
    options?: { cause?: unknown },
  ) {
    const row = ERRORS[code];
    const says = fill(row.says, details);
    super(says, options);
    this.failure = { code, says, next: fill(row.next, details), details };
  }
}

/** An error about a pack that is being read. Its codes are the first block of the table. */
export class PackError extends SatchelError {
  override readonly name = 'PackError';
}

/** Turns anything thrown into a failure that can be shown; never throws. */
export function toFailure(thrown: unknown): Failure {
  if (thrown instanceof SatchelError) return thrown.failure;
  if (thrown instanceof DOMException && thrown.name === 'AbortError') return new SatchelError('cancelled').failure;
  return new SatchelError('unexpected', { why: reasonOf(thrown) }).failure;
}

/** The shortest honest description of anything thrown. */
export const reasonOf = (thrown: unknown): string =>
  thrown instanceof SatchelError
    ? thrown.failure.says.replace(/\.$/, '')
    : thrown instanceof Error
      ? thrown.message || thrown.name
      : String(thrown);

/** Throws `cancelled` when the signal says so. */
export function throwIfAborted(signal?: AbortSignal): void {
  if (signal?.aborted) throw new SatchelError('cancelled');
}
