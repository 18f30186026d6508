'use client';

import { useEffect, useState } from 'react';
import { z } from 'zod';
import { useEngine, useGame } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { size } from '@/ui/shared/format';

const shelfSchema = z.array(
  z.object({ game: z.string(), file: z.string(), title: z.string(), blurb: z.string(), size: z.number() }),
);
type ShelfList = z.infer<typeof shelfSchema>;

/** The demo's stand-in for a download page. */
export function Shelf({ onTake }: { onTake(file: string): void }) {
  const { busy } = useEngine();
  const { packs, id } = useGame();
  const [items, setItems] = useState<ShelfList | 'missing'>();
  useEffect(() => {
    fetch('/shelf/shelf.json')
      .then(async (response) => setItems(shelfSchema.parse(await response.json())))
      .catch(() => setItems('missing'));
  }, []);
  return (
    <section className="sheet stackup grow" aria-label="Download shelf" style={{ overflow: 'auto' }}>
      <div>
        <h2>On the download shelf</h2>
        <p className="quiet small m-0">Stands in for the page you would download packs from.</p>
      </div>
      {items === 'missing' && (
        <p className="m-0">The shelf is empty: its files were not made. Start the app with “npm run demo”.</p>
      )}
      {Array.isArray(items) &&
        items
          .filter(({ game }) => game === id)
          .map(({ file, title, blurb, size: bytes }) => {
            const here = packs.some((pack) => pack.file === file);
            return (
              <div className="between align-items-start" key={file}>
                <div className="grow">
                  <strong>{title}</strong> <span className="quiet small">{size(bytes)}</span>
                  <div className="small quiet">{blurb}</div>
                </div>
                <Button
                  variant={here ? 'link' : 'outline-primary'}
                  size="sm"
                  disabled={here || busy}
                  onClick={() => onTake(file)}
                  aria-label={here ? `${title} is here` : `Take ${title}`}
                >
                  {here ? 'Here' : 'Take'}
                </Button>
              </div>
            );
          })}
    </section>
  );
}
