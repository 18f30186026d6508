'use client';

import { useEngine, useGame } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { many, oneOr, size } from '@/ui/shared/format';

/** Packs whose files are not at hand: dropped under any name they go where they were. */
export function Waiting() {
  const { act, busy } = useEngine();
  const { waiting } = useGame();
  if (waiting.length === 0) return null;
  return (
    <section className="sheet stackup" aria-label="Packs whose files are missing">
      <div>
        <h2>{many(waiting.length, 'pack')} without files</h2>
        <p className="small quiet m-0">
          What you decided about {oneOr(waiting.length, 'it', 'them')} is kept. Drop the download here, under whatever
          name it has now: it is known by its content and goes where it was.
        </p>
      </div>
      {waiting.map(({ layer, name, file, size: bytes, sha256 }) => (
        <div className="between align-items-start" key={layer}>
          <div className="grow">
            <strong>{name}</strong> <span className="quiet small">{size(bytes)}</span>
            <div className="small path">{file}</div>
            <div className="small quiet path whole-path">SHA-256 {sha256}</div>
          </div>
          <Button
            size="sm"
            variant="outline-secondary"
            disabled={busy}
            aria-label={`Do without ${name}`}
            onClick={() => void act((engine) => engine.change({ do: 'give up waiting', layer }))}
          >
            Do without it
          </Button>
        </div>
      ))}
    </section>
  );
}
