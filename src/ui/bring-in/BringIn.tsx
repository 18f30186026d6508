'use client';

import { useRef } from 'react';
import { useChosenPack, useEngine, useGame } from '@/ui/engine';
import { PackPicker } from '@/ui/shared/PackPicker';
import { useMainAction } from '@/ui/shell/Strap';
import { Download } from './Download';
import { DropPlace } from './DropPlace';
import { HowItGoes } from './HowItGoes';
import { Shelf } from './Shelf';

/** Bring in a pack and look into it. */
export function BringIn() {
  const game = useGame();
  const { act } = useEngine();
  const { pack, choose } = useChosenPack();
  const input = useRef<HTMLInputElement>(null);
  useMainAction(game.guide.step === 'bring-in' ? 'Choose a ZIP' : undefined, () => input.current?.click());

  const bringIn = async (files: Iterable<File>) => {
    for (const file of files) {
      const result = await act((engine) => engine.bringIn(file, file.name));
      if (!result) return;
      choose(result.layer);
    }
  };
  const fetchOne = async (file: string) => {
    const result = await act((engine) => engine.fetchFromShelf(file));
    if (result) choose(result.layer);
  };

  return (
    <div className="columns fill">
      <div className="stackup">
        <DropPlace input={input} onFiles={(files) => void bringIn(files)} />
        {game.demo && <Shelf onTake={(file) => void fetchOne(file)} />}
      </div>
      <div className="stackup">
        {pack ? (
          <>
            <PackPicker />
            <Download pack={pack} key={pack.layer} />
          </>
        ) : (
          <HowItGoes title={game.title} />
        )}
      </div>
    </div>
  );
}
