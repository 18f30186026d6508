import type { Instruction, StatedFact } from '@/core';
import { many, size } from '@/ui/shared/format';
import type { PackView } from '@/worker/api';

const FACT_WORDS: Record<StatedFact['kind'], string> = {
  version: 'version', resolution: 'resolution', edition: 'edition', region: 'region', 'title-id': 'title id', patch: 'needs its patch', needs: 'needs', id: 'id', title: 'title', for: 'made for',
};

const say = (one: Instruction): string => {
  switch (one.kind) {
    case 'key':
      return `${one.section ? `${one.section} › ` : ''}${one.key} = ${one.value}`;
    case 'attribute':
      return `${one.element} › ${one.attribute} = ${one.value}`;
    case 'launch option':
      return `start with ${one.option}`;
    case 'numbered section':
      return `a new [${one.section} …] with ${one.keys.map(({ key, value }) => `${key} = ${value}`).join(', ')}`;
  }
};

/** What a pack says of itself, what it tells the player to set, and what its textures are. */
export function Stated({ pack }: { pack: PackView }) {
  const { facts, instructions, textures } = pack;
  if (facts.length === 0 && instructions.length === 0 && textures.files === 0) return null;
  return (
    <section className="sheet stated" aria-label="What it says of itself">
      {textures.files > 0 && (
        <p>
          <strong>{many(textures.files, 'picture')}</strong> up to {textures.largest} pixels, {textures.formats.slice(0, 3).map(({ format }) => format.toUpperCase()).join(', ')}: {size(textures.bytesInMemory)} of memory once loaded.
        </p>
      )}
      {facts.length > 0 && (
        <ul className="facts" aria-label="Stated facts">
          {facts.slice(0, 8).map(({ kind, value, where }) => (
            <li key={`${kind} ${value}`} title={`Stated in ${where}`}>
              <span className="quiet">{FACT_WORDS[kind]}</span> <strong>{value}</strong> <span className="quiet small">({where})</span>
            </li>
          ))}
        </ul>
      )}
      {instructions.length > 0 && (
        <div className="small">
          <span className="quiet">Its read-me tells you to set: </span>
          {instructions.slice(0, 6).map((one, i) => (
            <span key={i} title={`Line ${one.line} of the read-me`}>
              {i > 0 && '; '}
              <span className="path">{say(one)}</span>
            </span>
          ))}
          <span className="quiet">. Kept for the Settings step.</span>
        </div>
      )}
    </section>
  );
}
