'use client';

import { useEffect, useState } from 'react';
import { useEngine } from '@/ui/engine';
import { Path } from '@/ui/shared/Path';
import { count } from '@/ui/shared/format';

/** A few pictures of a pack, drawn small by the worker; as many as there is room for in one line. */
export function Thumbnails({ layer, paths, total }: { layer: string; paths: string[]; total: number }) {
  return (
    <section className="sheet" aria-label="Pictures">
      <h2 className="mb-2">
        Pictures <span className="quiet small fw-normal">{total > paths.length ? `some of ${count(total)}` : ''}</span>
      </h2>
      <div className="thumbs">
        {paths.map((path) => (
          <Thumbnail key={path} layer={layer} path={path} />
        ))}
      </div>
    </section>
  );
}

function Thumbnail({ layer, path }: { layer: string; path: string }) {
  const { engine } = useEngine();
  const [url, setUrl] = useState<string>();
  useEffect(() => {
    let made: string | undefined;
    let current = true;
    void engine?.ask({ ask: 'thumbnail', layer, path }).then(
      (blob) => {
        if (!blob || !current) return;
        made = URL.createObjectURL(blob);
        setUrl(made);
      },
      () => undefined,
    );
    return () => {
      current = false;
      if (made) URL.revokeObjectURL(made);
    };
  }, [engine, layer, path]);
  const name = path.split('/').at(-1) ?? path;
  return (
    <figure>
      {url ? <img src={url} alt={name} /> : <div className="blank" />}
      <figcaption>
        <Path text={name} />
      </figcaption>
    </figure>
  );
}
