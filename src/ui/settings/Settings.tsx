'use client';

import Link from 'next/link';
import { Nav } from 'react-bootstrap';
import { useEngine, useGame } from '@/ui/engine';
import { Notice } from '@/ui/shared/Notice';
import { useAddress } from '@/ui/shared/useAddress';
import { useMainAction } from '@/ui/shell/Strap';
import { AsText } from './AsText';
import { KeyTable } from './KeyTable';
import { LaunchLine } from './LaunchLine';
import { Lost, Needs, ReadOnly } from './Attention';
import { MemoryRoom } from './MemoryRoom';
import { NumberedSections } from './NumberedSections';
import { PasteLines } from './PasteLines';
import { AskedSwitches, Proposals, askedSwitches, setAsked } from './Proposals';
import { SearchOrder } from './SearchOrder';
import { Sets } from './Sets';
import { Switches } from './Switches';

/** What the player can do with settings; those that a game has nothing for are left away. */
const PARTS = ['keys', 'text', 'paste', 'numbered', 'search', 'launch', 'sets', 'memory'] as const;
type Part = (typeof PARTS)[number];
const TITLES: Record<Part, string> = {
  keys: 'Keys',
  text: 'As text',
  paste: 'Paste lines',
  numbered: 'Numbered sections',
  search: 'Search order',
  launch: 'Launch line',
  sets: 'Sets and own files',
  memory: 'Memory',
};

/** What a tool looks for where it found nothing. */
const LOOKS_FOR: Partial<Record<Part, string>> = {
  numbered:
    'The app looks for sections that differ only in a number, such as [coat 1] and [coat 2], and found none in the settings files of this game.',
  search:
    'The app looks for a key that stands several times and always names a folder of the game: the folders in which the game looks for files, in order. It found none.',
  launch: 'The app knows no launch line of this game. It shows one as soon as a pack’s read-me asks for an option.',
};

function NothingFound({ part }: { part: Part }) {
  return (
    <section className="sheet" aria-label={TITLES[part]}>
      <p className="m-0">{LOOKS_FOR[part]}</p>
      <p className="m-0 mt-1 quiet">
        If the game has such a thing, <Link href="/game/card">tell the app so</Link>: “Tell the app something more” →
        “What turns them on”.
      </p>
    </section>
  );
}

/** The switches that packs need, what has come undone, and every settings file by key and as text. */
export function Settings() {
  const game = useGame();
  const { act } = useEngine();
  const { settings, beyondKeys: more } = game;
  const { at, open } = useAddress();
  const part = PARTS.find((one) => one === at('part')) ?? 'keys';
  const target = at('file') ?? settings[0]?.target;
  const off = game.switches.filter((one) => !one.on && !one.pending && one.neededBy > 0);
  const last = off.at(-1);
  const need = more.needs[0];
  const asked = askedSwitches(game.proposals).find(({ flags }) => flags.some(({ set }) => !set));
  const [one, ...others] = asked?.flags.filter(({ set }) => !set) ?? [];
  const askedSays =
    asked &&
    (others.length === 0
      ? `Set “${one?.path.at(-1) ?? ''}” to ${one?.value ?? ''}`
      : `Set the ${others.length + 1} switches that “${asked.pack}” asks for`);
  const putIn = () =>
    need &&
    void act((engine) =>
      engine.change({ do: 'list item', file: need.file, path: need.path, item: need.item, on: true }),
    );
  const onSettings = game.guide.step === 'settings';
  useMainAction(
    !onSettings
      ? undefined
      : last
        ? `Turn on “${off[0]?.title}”${off.length > 1 ? ' and what needs it' : ''}`
        : askedSays
          ? askedSays
          : need
            ? `Add “${need.item}” to the list`
            : more.lost.length > 0
              ? 'Put the edits in again'
              : undefined,
    () => {
      if (!last) {
        if (asked) void act((engine) => setAsked(engine, asked));
        else if (need) putIn();
        else void act((engine) => engine.change({ do: 'deploy' }));
        return;
      }
      for (const one of off) void act((engine) => engine.change({ do: 'turn on', switch: one.id }));
    },
  );

  if (settings.length === 0)
    return (
      <Notice level="note" title={`No settings files of ${game.title} are known to the app.`}>
        <p>
          The app looks for files with keys and values (sections, braces, tags, lists, commands) in the game’s folders,
          outside of what the game has many of. Some games make theirs at the first start: start it once and come back.
          If you know the file, <Link href="/game/card">tell the app so</Link>: “Tell the app something more” → “A
          settings file”. If it lies in another folder, add that folder on the same page.
        </p>
      </Notice>
    );
  const file = settings.find((one) => one.target === target) ?? settings[0];
  const has: Record<Part, boolean> = {
    keys: true,
    text: true,
    paste: true,
    sets: true,
    numbered: settings.some((one) => one.numbered),
    search: settings.some((one) => one.search),
    launch: more.launch !== undefined,
    memory: true,
  };
  // In a game that nobody described a tool that finds nothing says what it looks for, and how to tell it.
  const shown = PARTS.filter((one) => has[one] || (!game.demo && one in LOOKS_FOR));
  return (
    <>
      <h1 className="visually-hidden">Settings of {game.title}</h1>
      <Switches />
      <AskedSwitches />
      <Needs />
      <Lost />
      <ReadOnly />
      {game.proposals.length + more.asks.length > 0 && <Proposals />}
      <Nav
        variant="underline"
        className="parts"
        activeKey={part}
        onSelect={(key) => open({ part: key === 'keys' ? undefined : (key ?? undefined), file: at('file') })}
        aria-label="Settings"
      >
        {shown.map((one) => (
          <Nav.Item key={one}>
            <Nav.Link eventKey={one} as="button" aria-current={part === one ? 'page' : undefined}>
              {TITLES[one]}
            </Nav.Link>
          </Nav.Item>
        ))}
      </Nav>
      {file && part === 'keys' && <KeyTable file={file} onFile={(next) => open({ file: next })} />}
      {file && part === 'text' && (
        <AsText key={file.target} file={file} onFile={(next) => open({ part, file: next })} />
      )}
      {part === 'paste' && <PasteLines />}
      {part in LOOKS_FOR && !has[part] && <NothingFound part={part} />}
      {part === 'numbered' && has.numbered && <NumberedSections />}
      {part === 'search' && has.search && <SearchOrder />}
      {part === 'launch' && has.launch && <LaunchLine />}
      {part === 'sets' && <Sets />}
      {part === 'memory' && <MemoryRoom />}
    </>
  );
}
