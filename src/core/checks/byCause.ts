import { extensionOf, nameKey } from '../paths/paths';
import { figure } from '../words';
import { MOST_MOVES, type Finding, type Fix } from './finding';
import { jointLabel } from './cureWords';
import type { Near } from './nearest';
import type { SharedCause } from './trouble';

/**
 * From which folder to which one a file would have to go: what its two paths do not have in common at their ends. Files
 * of one folder that lies wrongly have this in common, however deep they lie in it.
 *
 * @example shiftOf('p/more/a/b.png', 'p/a/b.png') // ['p/more', 'p']
 */
export function shiftOf(from: string, to: string): [from: string, to: string] {
  const [a, b] = [from.split('/'), to.split('/')];
  let same = 0;
  while (same < Math.min(a.length, b.length) - 1 && nameKey(a.at(-1 - same) ?? '') === nameKey(b.at(-1 - same) ?? ''))
    same++;
  return [a.slice(0, a.length - same).join('/'), b.slice(0, b.length - same).join('/')];
}

/**
 * What files of one pack have in common that are looked for where, or as, they are not. Undefined for a slip of the
 * pen, which is its own cause.
 *
 * @param layer the pack that brings the near file
 */
export function sharedMiss(near: Near, wanted: string, layer: string): SharedCause | undefined {
  if (near.kind === 'spelling') return undefined;
  if (near.kind === 'case') return { kind: 'capitals', key: `capitals:${layer}`, layer };
  if (near.kind === 'folder' || near.kind === 'one level off') {
    const [from, to] = shiftOf(near.path, wanted);
    return { kind: 'shift', key: `shift:${layer}:${from} → ${to}`, layer, from, to };
  }
  const [from, to] = [extensionOf(near.path), extensionOf(wanted)];
  return { kind: 'ending', key: `ending:${layer}:${from} → ${to}`, layer, from, to };
}

/**
 * Findings of one cause become one: each is quoted in it and can be set aside for itself, its cure is theirs together.
 * The order of the first of each stays.
 *
 * @param findings as they were found one by one, without those that were set aside
 */
export function foldByCause(findings: readonly Finding[]): Finding[] {
  const groups = new Map<string, Finding[]>();
  for (const finding of findings) {
    const key =
      finding.shared === undefined
        ? `one ${finding.id}`
        : `all ${finding.level} ${finding.weight ?? ''} ${finding.shared.key}`;
    const group = groups.get(key);
    if (group) group.push(finding);
    else groups.set(key, [finding]);
  }
  return [...groups.values()].map((group) => (group.length === 1 ? (group[0] as Finding) : together(group)));
}

function together(group: readonly Finding[]): Finding {
  const [first] = group as [Finding];
  const { key, title, cause } = first.shared ?? { key: first.id, title: first.title };
  return {
    id: `cause:${first.weight ?? ''}${key}`,
    level: first.level,
    weight: first.weight,
    title: title.replace('{n}', figure(group.length)),
    evidence: '',
    cause: cause ?? first.cause,
    fixes: cures(group),
    ...(first.about === undefined ? {} : { about: first.about }),
    ...(first.layer === undefined ? {} : { layer: first.layer }),
    seen: group.map(({ id, title: says, evidence }) => ({ id, title: says, evidence })),
  };
}

/** The cures of all: those that all have alike, those that speak of files for all of these files. */
function cures(group: readonly Finding[]): Fix[] {
  const all = group.flatMap(({ fixes }) => fixes);
  const of = <Kind extends Fix['kind']>(kind: Kind) =>
    all.filter((fix): fix is Extract<Fix, { kind: Kind }> => fix.kind === kind);
  const made = new Map([...new Set(all.map(({ kind }) => kind))].map((kind) => [kind, joined(kind, of, group.length)]));
  const times = new Map<string, number>();
  for (const fix of all)
    if (!made.get(fix.kind)) times.set(JSON.stringify(fix), (times.get(JSON.stringify(fix)) ?? 0) + 1);
  const found = new Map<string, Fix>();
  for (const fix of all) {
    const whole = made.get(fix.kind);
    if (whole) found.set(fix.kind, whole);
    else if (times.get(JSON.stringify(fix)) === group.length) found.set(JSON.stringify(fix), fix);
  }
  return [...found.values()];
}

type OfKind = <Kind extends Fix['kind']>(kind: Kind) => Extract<Fix, { kind: Kind }>[];

const distinct = <Item>(items: readonly Item[], key: (item: Item) => string): Item[] => [
  ...new Map(items.map((item) => [key(item), item])).values(),
];

/** One cure for all files that cures of this kind speak of; undefined for kinds that speak of none. */
function joined(kind: Fix['kind'], of: OfKind, group: number): Fix | undefined {
  switch (kind) {
    case 'move': {
      const moves = distinct(
        of(kind).flatMap((fix) => fix.moves),
        ({ from }) => from,
      );
      return moves.length > MOST_MOVES ? undefined : { kind, label: jointLabel(kind, moves.length, group), moves };
    }
    case 'leave out': {
      const targets = [...new Set(of(kind).flatMap((fix) => fix.targets))];
      return { kind, label: jointLabel(kind, targets.length, group), targets };
    }
    case 'take in': {
      const files = distinct(
        of(kind).flatMap((fix) => fix.files),
        ({ layer, path }) => `${layer}\n${path}`,
      );
      return { kind, label: jointLabel(kind, files.length, group), files };
    }
    case 'stand-in': {
      const copies = distinct(
        of(kind).flatMap((fix) => fix.copies),
        ({ to }) => to,
      );
      return { kind, label: jointLabel(kind, copies.length, group), copies };
    }
    default:
      return undefined;
  }
}
