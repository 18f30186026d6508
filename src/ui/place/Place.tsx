'use client';

import { useState } from 'react';
import { ButtonGroup } from 'react-bootstrap';
import { Button } from '@/ui/shared/controls';
import { Search } from '@/ui/shared/Search';
import type { PlacementMode } from '@/core';
import { useChosenPack, useEngine, useGame } from '@/ui/engine';
import { count, many, oneOr, place } from '@/ui/shared/format';
import { NothingYet } from '@/ui/shared/NothingYet';
import { Notice } from '@/ui/shared/Notice';
import { PackPicker } from '@/ui/shared/PackPicker';
import { useEscape } from '@/ui/shared/useEscape';
import { Tag } from '@/ui/shared/Tag';
import { useMainAction } from '@/ui/shell/Strap';
import type { PackView } from '@/worker/contract';
import { BaseForm } from './BaseForm';
import { PlaceFiles } from './PlaceFiles';
import { PlaceMap } from './PlaceMap';
import { Questions } from './Questions';
import { ShareFolder } from './ShareFolder';
import { Warnings } from './Warnings';
import { Why } from './Why';

const MODE_WORDS: Record<PlacementMode, string> = {
  over: 'over the game’s folders',
  'own-folder': 'a folder of its own',
  title: 'by title id',
  zipped: 'stays zipped',
  inside: 'into an archive',
  loose: 'by its kind',
  edits: 'as edits',
  converted: 'converted',
  chosen: 'your choice',
};
const SURE_WORDS = { sure: 'Sure', likely: 'Likely', ask: 'Not sure', chosen: 'Your choice' };

/** Where each file of a pack goes, and why. */
export function Place() {
  const { pack } = useChosenPack();
  if (!pack) return <NothingYet what="There is no pack to place yet." />;
  return (
    <>
      <PackPicker />
      <Placement pack={pack} key={pack.layer} />
    </>
  );
}

/** What it comes to: a question, or the place. */
function Headline({ pack: { placement }, show }: { pack: PackView; show(target: string): string }) {
  const questions = placement.questions.filter(({ open }) => open).length;
  const [only, ...others] = placement.parts;
  if (questions > 0) return oneOr(questions, 'One question first', `${questions} questions first`);
  if (placement.confidence === 'ask') return 'Where does it belong?';
  if (!only || others.length > 0) return `Goes to ${many(placement.parts.length, 'place')}`;
  return (
    <>
      Goes into <span className="path">{show(only.to)}</span>
    </>
  );
}

/** Each way of placing, with its reasons. */
function Reasons({ pack: { placement }, show }: { pack: PackView; show(target: string): string }) {
  return (
    <ul className="reasons">
      {placement.parts.slice(0, 5).map((part) => (
        <li key={`${part.from} ${part.to}`}>
          <span className="mode">{MODE_WORDS[part.mode]}</span> {part.reason}{' '}
          {part.from !== '' && part.mode === 'over' && (
            <span className="quiet">
              The wrapper <span className="path">{part.from}/</span> is taken off.
            </span>
          )}
          {part.evidence && <Why evidence={part.evidence} />}
        </li>
      ))}
      {placement.made.map((made) => (
        <li key={made.target + (made.inside ?? '')}>
          <span className="mode">written</span> <span className="path">{made.inside ?? show(made.target)}</span>:{' '}
          {made.why}
        </li>
      ))}
      {placement.parts.length === 0 && !placement.questions.some(({ open }) => open) && (
        <li>None of its folders is known to the game.</li>
      )}
    </ul>
  );
}

/** How many files go where. */
function Figures({ pack: { placement } }: { pack: PackView }) {
  return (
    <div className="figures">
      <Figure value={placement.placed} label="go into the game" />
      <Figure value={placement.fresh} label="new to the game" />
      <Figure value={placement.replacing - placement.identical} label="in place of its own" />
      {placement.identical > 0 && <Figure value={placement.identical} label="the same as its own" />}
      {placement.edits > 0 && <Figure value={placement.edits} label="values edited in settings" />}
      <Figure value={placement.leftOut} label="left out" />
    </div>
  );
}

/** Folders or files, and what can be done there. */
function Trees({ pack, show }: { pack: PackView; show(target: string): string }) {
  const [files, setFiles] = useState(false);
  const [search, setSearch] = useState('');
  return (
    <>
      <div className="between">
        <ButtonGroup size="sm" aria-label="How to look at it">
          <Button variant={files ? 'outline-primary' : 'primary'} onClick={() => setFiles(false)} aria-pressed={!files}>
            Folders
          </Button>
          <Button variant={files ? 'primary' : 'outline-primary'} onClick={() => setFiles(true)} aria-pressed={files}>
            File by file
          </Button>
        </ButtonGroup>
        <span className="quiet small grow">
          {files
            ? 'Untick what should stay out. Folders open with a click.'
            : 'Drag a folder of the pack onto another folder of the game to put it there.'}
        </span>
        {files && <Search label="Search in this pack" value={search} onChange={setSearch} />}
      </div>
      {files ? (
        <div className="fill">
          <PlaceFiles pack={pack} search={search} show={show} />
        </div>
      ) : (
        <PlaceMap pack={pack} show={show} />
      )}
    </>
  );
}

/** What the button of the strap does while a pack is unsure: what would lie over files is never among it. */
function useSuggestion(pack: PackView, setBase: (strip: string, base: string) => Promise<void>): void {
  const { act } = useEngine();
  const { guide } = useGame();
  const { questions, choices, confidence } = pack.placement;
  const open = questions.filter((one) => one.open);
  const suggestion = open.find(({ suggested }) => suggested.length > 0);
  const [first] = choices;
  const usable = open.length === 0 && first?.exact === 0 ? first : undefined;
  const says = suggestion ? 'Take the suggestion' : usable && 'Use the first place';
  useMainAction(guide.step === 'place' && confidence === 'ask' ? says : undefined, () => {
    if (suggestion) {
      const { id, suggested } = suggestion;
      void act((engine) =>
        engine.change({ do: 'answer question', layer: pack.layer, question: id, answer: suggested }),
      );
    } else if (usable) void setBase(usable.strip, usable.base);
  });
}

/** Where the player has placed it: back to what the app proposes. */
function PlaceAgain({ pack: { layer, placement } }: { pack: PackView }) {
  const { act, busy } = useEngine();
  if (placement.confidence !== 'chosen' && placement.moves.length === 0) return null;
  return (
    <Button
      variant="outline-secondary"
      size="sm"
      disabled={busy}
      onClick={() => void act((engine) => engine.change({ do: 'propose again', layer }))}
    >
      Let the app place it again
    </Button>
  );
}

/** One pack: what is open first, then the reasons, then both trees. */
function Placement({ pack }: { pack: PackView }) {
  const { act } = useEngine();
  const { roots } = useGame();
  const { placement } = pack;
  const unsure = placement.confidence === 'ask';
  const [changing, setChanging] = useState(false);
  useEscape(changing ? () => setChanging(false) : undefined);
  const setBase = async (strip: string, base: string) => {
    await act((engine) => engine.change({ do: 'place at', layer: pack.layer, strip, base }));
    setChanging(false);
  };
  useSuggestion(pack, setBase);
  const show = (target: string) => place(target, roots).replace(/!\/?/, ' › ').replace(/ › $/, '');
  const asksForBase = unsure && !placement.questions.some(({ open }) => open);

  return (
    <>
      <section className="sheet stackup">
        <div className="row-of">
          <Tag tag={pack.tag} />
          <h1>
            <Headline pack={pack} show={show} />
          </h1>
          <span className={`badge-${placement.confidence}`}>{SURE_WORDS[placement.confidence]}</span>
          <span className="ms-auto row-of">
            {!unsure && placement.ownFolder && <ShareFolder pack={pack} />}
            <PlaceAgain pack={pack} />
            {!asksForBase && (
              <Button
                variant="outline-primary"
                size="sm"
                aria-expanded={changing}
                onClick={() => setChanging(!changing)}
              >
                Change the place
              </Button>
            )}
          </span>
        </div>
        <Reasons pack={pack} show={show} />
        {!unsure && <Figures pack={pack} />}
        {(changing || asksForBase) && (
          <BaseForm pack={pack} show={show} onChoose={(strip, base) => void setBase(strip, base)} />
        )}
      </section>
      <Questions pack={pack} />
      <Warnings warnings={placement.warnings} />
      {placement.placed + placement.edits === 0 && !unsure && (
        <Notice level="wrong" title="Not one file of this pack goes into the game this way.">
          <p>Choose another place, or take files in below.</p>
        </Notice>
      )}
      <Trees pack={pack} show={show} />
    </>
  );
}

function Figure({ value, label }: { value: number; label: string }) {
  return (
    <div>
      <b>{count(value)}</b>
      <span>{label}</span>
    </div>
  );
}
