import type { Session } from './session';

export const mergeSources = (session: Session) => {
  const sources = new Map(session.picture.merges.map(({ note, sources: from }) => [note.id, from]));
  return (layer: string) => sources.get(layer);
};
