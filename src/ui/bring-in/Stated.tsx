import type { StatedFact } from '@/core';
import { many, size } from '@/ui/shared/format';
import type { PackView } from '@/worker/contract';
import { Checklist } from './Checklist';

const FACT_WORDS: Record<StatedFact['kind'], string> = {
  version: 'version',
  resolution: 'resolution',
  edition: 'edition',
  region: 'region',
  'title-id': 'title id',
  patch: 'needs its patch',
  needs: 'needs',
  id: 'id',
  title: 'title',
  for: 'made for',
};

/** What a pack says of itself, what it tells the player to set, and what its textures are. */
export function Stated({ pack }: { pack: PackView }) {
  const { facts, textures } = pack;
  return (
    <section className="sheet stated" aria-label="What it says of itself">
      {textures.files > 0 && (
        <p>
          <strong>{many(textures.files, 'picture')}</strong> up to {textures.largest} pixels,{' '}
          {textures.formats
            .slice(0, 3)
            .map(({ format }) => format.toUpperCase())
            .join(', ')}
          : {size(textures.bytesInMemory)} of memory once loaded.
        </p>
      )}
      {facts.length > 0 && (
        <ul className="facts" aria-label="Stated facts">
          {facts.slice(0, 8).map(({ kind, value, where }) => (
            <li key={`${kind} ${value}`} title={`Stated in ${where}`}>
              <span className="quiet">{FACT_WORDS[kind]}</span> <strong>{value}</strong>{' '}
              <span className="quiet small">({where})</span>
            </li>
          ))}
        </ul>
      )}
      <Checklist key={pack.layer} pack={pack} />
    </section>
  );
}
