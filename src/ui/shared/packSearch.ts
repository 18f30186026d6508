import { holdsAll, nameKey, searchWords } from '@/core';
import type { PackView } from '@/worker/contract';

/** The packs that are meant by a search: every word is in the name, the download's name or the notes. */
export function packsMeant(packs: readonly PackView[], search: string): PackView[] {
  const words = searchWords(search);
  return packs.filter(({ name, file, notes: { origin, version, remember, heading } }) =>
    holdsAll(nameKey([name, file, origin, version, remember, heading].join(' ')), words),
  );
}
