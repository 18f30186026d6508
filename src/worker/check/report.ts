import { makeReport } from '@/core';
import type { CheckView, PackView } from '../contract';
import type { Session } from '../game/session';

/** The report as Markdown. */
export function reportOf(
  session: Session,
  view: { packs: readonly PackView[]; check: CheckView; overlapping: number },
): string {
  const { picture, game } = session;
  const { check } = view;
  return makeReport({
    app: 'Tidy Satchel',
    game: game.card.title,
    at: Date.now(),
    overlaps: view.overlapping,
    findings: check.findings,
    aside: check.aside,
    loaded: check.loaded,
    counted: check.counted,
    packs: view.packs.map(({ name, file, on, files, deployed, overlaps, notes }) => ({
      name,
      file,
      on,
      files,
      deployed,
      ...overlaps,
      ...notes,
    })),
    edits: [...picture.resolution.living.values()].flatMap(({ target, edits }) =>
      edits.map(({ path, value, layer, kind }) => ({
        file: target,
        path,
        value,
        by: kind === 'edits' ? 'by the player' : `by “${session.nameOf(layer)}”`,
      })),
    ),
    log: check.log,
  });
}
