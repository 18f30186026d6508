'use client';

import Link from 'next/link';
import { useState } from 'react';
import { holdsAll, nameKey, searchWords } from '@/core';
import { useGame } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { Search } from '@/ui/shared/Search';
import { PICTURES } from './stepPictures';
import { useTour } from './Tour';
import { HELP, type StepHelp } from './stepWords';

/** What a search leaves of one step: all of it where its name or sentence is meant, else the lines that are. */
function meant(help: StepHelp, words: readonly string[]): StepHelp | undefined {
  if (holdsAll(nameKey(`${help.title} ${help.short}`), words)) return help;
  const more = help.more.filter((line) => holdsAll(nameKey(`${help.title} ${line}`), words));
  return more.length > 0 ? { ...help, more } : undefined;
}

/** A page of help for each step, all on one page that can be searched. */
export function Help() {
  const { title } = useGame();
  const { begin } = useTour();
  const [search, setSearch] = useState('');
  const found = HELP.flatMap((help) => meant(help, searchWords(search)) ?? []);
  return (
    <>
      <div className="row-of">
        <h1 className="grow">How to put mods into {title}, step by step</h1>
        <Button variant="outline-primary" onClick={begin}>
          Take the tour
        </Button>
        <Search label="Search the help" value={search} onChange={setSearch} />
      </div>
      {found.map(({ step, title: name, short, more }) => (
        <section key={step} id={step} className="sheet help" aria-labelledby={`help-${step}`}>
          <div className="stackup">
            <h2 id={`help-${step}`}>
              <Link href={`/game/${step}`}>{name}</Link>
            </h2>
            <p className="m-0">{short}</p>
            <ul className="m-0">
              {more.map((line) => (
                <li key={line}>{line}</li>
              ))}
            </ul>
          </div>
          <img
            src={PICTURES[step].src}
            width={PICTURES[step].width}
            height={PICTURES[step].height}
            alt={`${name} in the demo game`}
            loading="lazy"
          />
        </section>
      ))}
      {found.length === 0 && <p role="status">The help says nothing of this.</p>}
    </>
  );
}
