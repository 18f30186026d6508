import { asThings, pathId, isSwitch, masterOf, nameKey, switched, type SettingProposal, type TargetPath } from '@/core';
import type { ProposalView } from '../contract';
import { askedBy, documentBefore } from '../game/asked';
import type { Session } from '../game/session';
import { groundOf } from '../game/playerEdits';
import { wantedIn } from '../game/wanted';

/** What read-mes of packs in use tell to set and nobody has asked for yet. */
export async function proposalViews(session: Session): Promise<ProposalView[]> {
  const found: ProposalView[] = [];
  for (const layer of session.packLayers()) {
    if (!layer.on) continue;
    const lines = ((await session.openPack(layer.packId)).readMe?.text ?? '').split(/\r\n|\n|\r/);
    const keys = (await askedBy(session, layer)).asked.filter((one) => one.kind === 'key');
    for (const one of asThings(keys).flatMap((all) => behindOthers(session, all))) {
      if (isKnownSwitch(session, one)) continue;
      const standing = standingOf(session, one);
      if (!standing) continue;
      const text = (lines[one.line - 1] ?? '').trim().slice(0, 200);
      found.push({
        file: one.file,
        path: one.path,
        value: one.value,
        line: one.line,
        text,
        ...standing,
        layer: layer.id,
        pack: layer.name,
      });
    }
  }
  return found;
}

type AskedKey = Extract<SettingProposal, { kind: 'key' }>;

/** The number of an item, of an object in a list, of an element beside others: `2`, `ship#3`. */
const NUMBERED = /^(.*#)?(\d+)$/;

/**
 * What is new in a list is reckoned with the file as it is. Where something else is to come to that place, it comes
 * behind that.
 *
 * @param all the keys of one thing
 */
function behindOthers(session: Session, all: readonly [AskedKey, ...AskedKey[]]): readonly AskedKey[] {
  const [{ file, path, now }] = all;
  const at = path.findLastIndex((name) => NUMBERED.test(name));
  const [, stem = '', number] = NUMBERED.exec(path[at] ?? '') ?? [];
  if (number === undefined || now !== undefined) return all;
  const wanted = [...wantedIn(session, file).values()].flat();
  const startsLike = (to: readonly string[]) => {
    const begin = pathId(to.slice(0, at + 1));
    return (of: readonly string[]) => pathId(of.slice(0, at + 1)) === begin;
  };
  if (!wanted.some((edit) => startsLike(path)(edit.path))) return all;
  // It is there already: what is asked for is a key of it.
  if (
    documentBefore(session, file)
      ?.entries()
      .some((entry) => startsLike(path)(entry.path))
  )
    return all;
  for (let n = Number(number); ; n++) {
    const moved = all.map((one) => ({ ...one, path: one.path.with(at, stem + String(n)) }));
    const isTaken = wanted.some((edit) => startsLike(moved[0]?.path ?? [])(edit.path));
    if (!isTaken || moved.every((one) => willBe(session, file, one.path, one.value))) return moved;
  }
}

/** Switches of the card are asked about by themselves, louder. */
const isKnownSwitch = ({ game }: Session, { file, path }: AskedKey): boolean =>
  game.card.switches.some((one) => one.file === file && nameKey(pathId(one.path)) === nameKey(pathId(path)));

/** Will a key have this value after the next deployment? */
const willBe = (session: Session, file: TargetPath, path: readonly string[], value: string): boolean =>
  wantedIn(session, file)
    .get(pathId(path))
    ?.some((wanted) => wanted.value === value) ?? false;

/** How a key stands that a read-me asks for; undefined where it is so, and needs nothing else. */
function standingOf(
  session: Session,
  { file, path, value, now: inGame }: AskedKey,
): Pick<ProposalView, 'now' | 'flag' | 'set' | 'after'> | undefined {
  const coming = session.picture.coming.get(file);
  const now = coming ? coming.document.get(path) : inGame;
  const on = now !== undefined && isSwitch(now) ? switched(now, true) : undefined;
  const flag = on !== undefined && isSwitch(value);
  const document = groundOf(session, file);
  // What is to be off needs nothing to be on.
  const master = flag && on === value && document ? masterOf(document, path) : undefined;
  const waits = master !== undefined && !willBe(session, file, master.path, master.value);
  const set = now === value || willBe(session, file, path, value);
  return set && !waits ? undefined : { now, flag, set, ...(waits ? { after: master } : {}) };
}
