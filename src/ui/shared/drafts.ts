import localforage from 'localforage';
import { z } from 'zod';

/*
 * What was typed and not yet taken, by the place it was typed in. A database of its own: the page writes it, the worker
 * all others.
 */

const draftSchema = z.object({
  /** When the page was opened that it was typed in, so that two tabs write over nothing of each other. */
  session: z.string(),
  text: z.string(),
  /** Milliseconds since 1970-01-01 UTC. */
  at: z.number(),
});
export type Draft = z.infer<typeof draftSchema>;
const draftsSchema = z.array(draftSchema);

/** Drafts that are kept of one place, the latest first. */
const MOST = 5;

const store = () => (opened ??= localforage.createInstance({ name: 'tidy-satchel-drafts', storeName: 'drafts' }));
let opened: LocalForage | undefined;

/** Where a page that is being left puts what it has no time to write. */
const heldAt = (place: string): string => `satchel-draft ${place}`;

/** The last thing that was asked of the store: what comes after it sees what it wrote. */
let turn: Promise<unknown> = Promise.resolve();

function inTurn<T>(work: () => Promise<T>): Promise<T> {
  const done = turn.then(work);
  // A failure is told to who asked; the next one has its turn all the same.
  turn = done.catch(() => undefined);
  return done;
}

/** Drafts of one place, the latest first. What cannot be read is passed over: a draft is never applied by itself. */
export const readDrafts = (place: string): Promise<Draft[]> => inTurn(() => read(place));

async function read(place: string): Promise<Draft[]> {
  const kept = draftsSchema.catch([]).parse((await store().getItem(place)) ?? []);
  const held = localStorage.getItem(heldAt(place));
  if (held === null) return kept;
  const found = draftSchema.safeParse(parsed(held));
  const all = found.success
    ? [found.data, ...kept.filter(({ session }) => session !== found.data.session)].slice(0, MOST)
    : kept;
  await store().setItem(place, all);
  localStorage.removeItem(heldAt(place));
  return all;
}

const parsed = (text: string): unknown => {
  try {
    return JSON.parse(text);
  } catch {
    // Cut off: then there is no draft in it.
    return undefined;
  }
};

/** The same as `writeDraft` for a page that is being left: done when it returns. */
export function holdDraft(place: string, session: string, draft: Pick<Draft, 'text' | 'at'>): void {
  try {
    localStorage.setItem(heldAt(place), JSON.stringify({ session, ...draft }));
  } catch {
    // Too long for that store; what was kept a moment before is there.
  }
}

/** Keeps what a session has typed, in place of what it had before; without a text that is forgotten. */
export const writeDraft = (
  place: string,
  session: string,
  draft: Pick<Draft, 'text' | 'at'> | undefined,
): Promise<void> =>
  inTurn(async () => {
    const others = (await read(place)).filter((one) => one.session !== session);
    const all = [...(draft ? [{ session, ...draft }] : []), ...others].slice(0, MOST);
    if (all.length > 0) await store().setItem(place, all);
    else await store().removeItem(place);
  });
