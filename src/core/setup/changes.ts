/** Data as JSON has it; a member may be missing. */
export type Json = null | boolean | number | string | readonly Json[] | JsonObject;
export interface JsonObject {
  readonly [name: string]: Json | undefined;
}

/** One place of a tree of data that became another: a member's value, or a piece of a list. */
export type Change =
  | { at: string[]; before?: Json | undefined; after?: Json | undefined }
  | { at: string[]; from: number; out: Json[]; in: Json[] };

export type Direction = 'back' | 'forth';

const isObject = (value: Json | undefined): value is JsonObject =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const isList = (value: Json | undefined): value is readonly Json[] => Array.isArray(value);

/** Do two pieces of data say the same? A member that is undefined is as good as missing. */
export function isSame(a: Json | undefined, b: Json | undefined): boolean {
  if (a === b) return true;
  if (isList(a)) return isList(b) && a.length === b.length && a.every((one, i) => isSame(one, b[i]));
  if (!isObject(a) || !isObject(b)) return false;
  return [...new Set([...Object.keys(a), ...Object.keys(b)])].every((name) => isSame(a[name], b[name]));
}

/** The piece in which two lists differ. */
function pieceOf(a: readonly Json[], b: readonly Json[]): { from: number; out: Json[]; in: Json[] } | undefined {
  let from = 0;
  while (from < a.length && from < b.length && isSame(a[from], b[from])) from++;
  let end = 0;
  const most = Math.min(a.length, b.length) - from;
  while (end < most && isSame(a[a.length - 1 - end], b[b.length - 1 - end])) end++;
  const piece = { from, out: a.slice(from, a.length - end), in: b.slice(from, b.length - end) };
  return piece.out.length + piece.in.length === 0 ? undefined : piece;
}

/**
 * What makes `after` out of `before`, and the other way round. Parts that are the same object in both are not looked
 * into.
 */
export function changesBetween(before: JsonObject, after: JsonObject, at: string[] = []): Change[] {
  if (before === after) return [];
  return [...new Set([...Object.keys(before), ...Object.keys(after)])].flatMap((name): Change[] => {
    const [a, b] = [before[name], after[name]];
    const here = [...at, name];
    if (a === b) return [];
    if (isObject(a) && isObject(b)) return changesBetween(a, b, here);
    if (isList(a) && isList(b)) {
      const piece = pieceOf(a, b);
      return piece ? [{ at: here, ...piece }] : [];
    }
    return isSame(a, b) ? [] : [{ at: here, before: a, after: b }];
  });
}

/** A list with a piece in another's place. Where the list has become another since, what goes is looked for in it. */
function withPiece(list: readonly Json[], from: number, goes: readonly Json[], comes: readonly Json[]): Json[] {
  // Of two states that are as they were, one never has at this place what the other would bring there.
  if (goes.length === 0 && isSame(list.slice(from, from + comes.length), comes)) return [...list];
  if (isSame(list.slice(from, from + goes.length), goes))
    return [...list.slice(0, from), ...comes, ...list.slice(from + goes.length)];
  const left = [...goes];
  const stays = list.filter((one) => {
    const found = left.findIndex((other) => isSame(one, other));
    if (found >= 0) left.splice(found, 1);
    return found < 0;
  });
  const missing = comes.filter((one) => !stays.some((other) => isSame(one, other)));
  return [...stays.slice(0, from), ...missing, ...stays.slice(from)];
}

function withChange(tree: Json | undefined, change: Change, direction: Direction, depth = 0): Json | undefined {
  const name = change.at[depth];
  if (name !== undefined) {
    const object = isObject(tree) ? tree : {};
    const value = withChange(object[name], change, direction, depth + 1);
    if (value !== undefined) return { ...object, [name]: value };
    return Object.fromEntries(Object.entries(object).filter(([other]) => other !== name));
  }
  if (!('from' in change)) return direction === 'back' ? change.before : change.after;
  const [goes, comes] = direction === 'back' ? [change.in, change.out] : [change.out, change.in];
  return withPiece(isList(tree) ? tree : [], change.from, goes, comes);
}

/**
 * Makes changes, or takes them back. Law: `withChanges(a, changesBetween(a, b), 'forth')` says the same as `b`, and
 * `withChanges(b, changesBetween(a, b), 'back')` the same as `a`. On a tree that has become another since, they do what
 * they can and leave the rest alone.
 */
export function withChanges(tree: JsonObject, changes: readonly Change[], direction: Direction): JsonObject {
  const ordered = direction === 'back' ? [...changes].reverse() : changes;
  return ordered.reduce<JsonObject>((now, change) => withChange(now, change, direction) as JsonObject, tree);
}
