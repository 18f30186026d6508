'use client';

import { Play, Square } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { useEngine } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';

/** Plays one sound of a pack. */
export function PlaySound({ layer, path }: { layer: string; path: string }) {
  const { act } = useEngine();
  const audio = useRef<HTMLAudioElement>(null);
  const [playing, setPlaying] = useState(false);
  useEffect(() => () => audio.current?.pause(), []);
  const toggle = async () => {
    if (playing) {
      audio.current?.pause();
      return;
    }
    const sound = await act((engine) => engine.ask({ ask: 'sound in pack', layer, path }));
    if (!sound || !audio.current) return;
    audio.current.src = URL.createObjectURL(sound);
    await audio.current.play().catch(() => setPlaying(false));
  };
  const free = () => {
    setPlaying(false);
    if (audio.current?.src) URL.revokeObjectURL(audio.current.src);
  };
  return (
    <>
      <Button
        variant="link"
        size="sm"
        className="py-0"
        onClick={() => void toggle()}
        aria-label={`${playing ? 'Stop' : 'Play'} ${path.split('/').at(-1)}`}
      >
        {playing ? <Square size={14} aria-hidden /> : <Play size={14} aria-hidden />}
      </Button>
      <audio ref={audio} onPlay={() => setPlaying(true)} onPause={free} onEnded={free} />
    </>
  );
}
