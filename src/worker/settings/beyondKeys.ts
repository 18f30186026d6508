import { editFates } from '@/core';
import type { PackView, BeyondKeys } from '../contract';
import { askedBy } from '../game/asked';
import { dropKey } from '../game/drops';
import type { Session } from '../game/session';
import { launchView, packAsks } from './launch';
import { memoryView } from './textureMemory';
import { listNeeds } from './listNeeds';
import { setViews } from './sets';

/** What the settings page shows beyond files and keys. */
export async function beyondKeys(session: Session, packs: readonly PackView[]): Promise<BeyondKeys> {
  const fates = editFates(session.picture.state, session.picture.settings);
  const { ownFiles } = session.game.card;
  const wanted = await Promise.all(
    session
      .packLayers()
      .filter(({ on }) => on)
      .map((layer) => askedBy(session, layer)),
  );
  const launch = launchView(
    session,
    wanted.some(({ asked }) => asked.some(({ kind }) => kind === 'launch option')),
  );
  return {
    launch,
    asks: await packAsks(session, launch),
    needs: listNeeds(session),
    sets: setViews(session),
    memory: memoryView(session, packs),
    lost: fates
      .filter(({ fate }) => fate !== 'stayed')
      .map((one) => ({
        ...one,
        by: one.kind === 'edits' ? 'you' : session.nameOf(one.layer),
        times: (session.stack.drops[dropKey(one.file, one.path)] ?? 0) + 1,
      })),
    sorted: session.picture.sorted,
    stayed: fates.filter(({ fate }) => fate === 'stayed').length,
    ownFiles: ownFiles && { ending: ownFiles.ending, why: ownFiles.why },
  };
}
