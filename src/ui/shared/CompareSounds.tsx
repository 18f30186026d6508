'use client';

import { useRef } from 'react';
import { useContent, type TwoVersions } from './useContent';

/** Two sounds to be heard one after the other: when one begins, the other stops. */
export function CompareSounds({ target, a, b, names, revision }: TwoVersions) {
  const both = useRef<HTMLDivElement>(null);
  const alone = (playing: HTMLAudioElement) =>
    both.current?.querySelectorAll('audio').forEach((one) => one !== playing && one.pause());
  return (
    <div className="row-of" ref={both}>
      <Sound target={target} from={a} name={names[0]} revision={revision} onPlay={alone} />
      <Sound target={target} from={b} name={names[1]} revision={revision} onPlay={alone} />
    </div>
  );
}

function Sound({
  target,
  from,
  name,
  revision,
  onPlay,
}: {
  target: string;
  from: string;
  name: string;
  revision: number | undefined;
  onPlay(playing: HTMLAudioElement): void;
}) {
  const url = useContent('sound', target, from, revision);
  return (
    <figure className="m-0 grow">
      <figcaption className="small">{name}</figcaption>
      {url === 'none' ? (
        <p className="small quiet m-0">A browser cannot play this one.</p>
      ) : (
        <audio
          controls
          className="w-100"
          preload="metadata"
          src={url}
          aria-label={name}
          onPlay={({ currentTarget }) => onPlay(currentTarget)}
        />
      )}
    </figure>
  );
}
