import { PresentFiles, nameKey, onceFor, readLedgerSteps, type TargetPath } from '@/core';
import type { FileNow, PresentRow, PresentView, QueryOf } from '../contract';
import type { Picture } from '../game/picture';
import type { Session } from '../game/session';
import { fileStory } from '../game/story';

/** Ledger lines that are looked through for one file, the latest first. */
const MOST_LOOKED_AT = 200;

/** The folders as they are; made when they are asked for, and kept until they are looked at anew. */
const presentOf = onceFor(({ index, state, plan }: Picture) => new PresentFiles(index, state, plan.drifted));

export function presentView(session: Session): PresentView {
  const files = presentOf(session.picture);
  return { counts: files.counts, first: { all: files.firstFolders('all'), touched: files.firstFolders('touched') } };
}

export function presentRows(session: Session, { only, open, search }: QueryOf<'present'>): (() => PresentRow)[] {
  const tags = new Map(session.packLayers().map(({ id, tag }) => [id, tag]));
  return presentOf(session.picture)
    .rows(only, new Set(open), search)
    .map((row) => () => {
      const made = row();
      return {
        ...made,
        by: made.layer === undefined ? undefined : session.nameOf(made.layer),
        tag: made.layer === undefined ? undefined : tags.get(made.layer),
      };
    });
}

/** One file: what it is now, who put it there, what was done to it. */
export async function fileNow(session: Session, target: TargetPath): Promise<FileNow> {
  const { state, ledger } = session.picture;
  const key = nameKey(target);
  const history: FileNow['history'] = [];
  for (const { number, at, title } of ledger.slice(0, MOST_LOOKED_AT)) {
    const step = (await readLedgerSteps(session.workshop.vault, number)).find((one) => nameKey(one.target) === key);
    if (step) history.push({ number, at, title, action: step.action, by: session.nameOf(step.layer) });
  }
  const record = state.files.find((file) => nameKey(file.target) === key);
  return {
    presence: presentOf(session.picture).presenceOf(target),
    by: record && session.nameOf(record.layer),
    story: await fileStory(session, target),
    history,
  };
}
