import { pathId, isSwitch, masterOf, nameKey, switched } from '@/core';
import type { ProposalView } from '../contract';
import { askedBy } from '../game/asked';
import type { Session } from '../game/session';
import { wantedIn } from '../game/wanted';

/** What read-mes of packs in use tell to set and nobody has asked for yet. */
export async function proposalViews(session: Session): Promise<ProposalView[]> {
  const found: ProposalView[] = [];
  for (const layer of session.packLayers()) {
    if (!layer.on) continue;
    const lines = ((await session.openPack(layer.packId)).readMe?.text ?? '').split(/\r\n|\n|\r/);
    for (const one of (await askedBy(session, layer)).asked) {
      if (one.kind !== 'key') continue;
      // Switches are asked about by themselves, louder.
      if (
        session.game.card.switches.some(
          ({ file, path }) => file === one.file && nameKey(pathId(path)) === nameKey(pathId(one.path)),
        )
      )
        continue;
      const willBe = (path: readonly string[], value: string) =>
        wantedIn(session, one.file)
          .get(pathId(path))
          ?.some((wanted) => wanted.value === value) ?? false;
      const flag =
        one.now !== undefined && isSwitch(one.now) && switched(one.now, true) !== undefined && isSwitch(one.value);
      const document = session.picture.settings.get(one.file);
      // What is to be off needs nothing to be on.
      const isOn = flag && one.now !== undefined && switched(one.now, true) === one.value;
      const master = isOn && document ? masterOf(document, one.path) : undefined;
      const waits = master !== undefined && !willBe(master.path, master.value);
      const set = one.now === one.value || willBe(one.path, one.value);
      if (set && !waits) continue;
      found.push({
        file: one.file,
        path: one.path,
        value: one.value,
        now: one.now,
        line: one.line,
        text: (lines[one.line - 1] ?? '').trim().slice(0, 200),
        flag,
        set,
        ...(master && waits ? { after: master } : {}),
        layer: layer.id,
        pack: layer.name,
      });
    }
  }
  return found;
}
