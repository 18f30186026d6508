'use client';

import Link from 'next/link';
import { Nav } from 'react-bootstrap';
import { useEngine, useGame } from '@/ui/engine';
import { Notice } from '@/ui/shared/Notice';
import { useAddress } from '@/ui/shared/useAddress';
import { useMainAction } from '@/ui/shell/Strap';
import type { GameView, SettingsFileView } from '@/worker/contract';
import { AsText } from './AsText';
import { KeyTable } from './KeyTable';
import { LaunchLine } from './LaunchLine';
import { Lost, Needs, ReadOnly } from './Attention';
import { MemoryRoom } from './MemoryRoom';
import { NumberedSections } from './NumberedSections';
import { PasteLines } from './PasteLines';
import { AskedSwitches, askedSays, askedSwitches, setAsked } from './AskedSwitches';
import { Proposals } from './Proposals';
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

/** What the button of the strap does here: the first of what is wanted, the switches before all else. */
function useNextSetting(): void {
  const { switches, proposals, beyondKeys, guide } = useGame();
  const { act } = useEngine();
  const off = switches.filter((one) => !one.on && !one.pending && one.neededBy > 0);
  const asked = askedSwitches(proposals).find(({ flags }) => flags.some(({ set }) => !set));
  const [need] = beyondKeys.needs;
  const next = (): { says: string; run(): void } | undefined => {
    if (off.length > 0)
      return {
        says: `Turn on “${off[0]?.title}”${off.length > 1 ? ' and what needs it' : ''}`,
        run() {
          for (const one of off) void act((engine) => engine.change({ do: 'turn on', switch: one.id }));
        },
      };
    if (asked) return { says: askedSays(asked), run: () => void act((engine) => setAsked(engine, asked)) };
    if (need) {
      const { file, path, item } = need;
      return {
        says: `Add “${item}” to the list`,
        run: () => void act((engine) => engine.change({ do: 'list item', file, path, item, on: true })),
      };
    }
    if (beyondKeys.lost.length === 0) return undefined;
    return { says: 'Put the edits in again', run: () => void act((engine) => engine.change({ do: 'deploy' })) };
  };
  const action = guide.step === 'settings' ? next() : undefined;
  useMainAction(action?.says, () => action?.run());
}

/** The parts that this game has something for. */
function partsOf({ settings, beyondKeys }: GameView): Record<Part, boolean> {
  return {
    keys: true,
    text: true,
    paste: true,
    sets: true,
    numbered: settings.some((one) => one.numbered),
    search: settings.some((one) => one.search),
    launch: beyondKeys.launch !== undefined,
    memory: true,
  };
}

/** The parts to choose from. */
function PartsNav({ shown, part, onPart }: { shown: readonly Part[]; part: Part; onPart(part: Part): void }) {
  return (
    <Nav
      variant="underline"
      className="parts"
      activeKey={part}
      onSelect={(key) => onPart(PARTS.find((one) => one === key) ?? 'keys')}
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
  );
}

/** No settings file at all is known. */
function NoFiles() {
  const { title } = useGame();
  return (
    <Notice level="note" title={`No settings files of ${title} are known to the app.`}>
      <p>
        The app looks for files with keys and values (sections, braces, tags, lists, commands) in the game’s folders,
        outside of what the game has many of. Some games make theirs at the first start: start it once and come back. If
        you know the file, <Link href="/game/card">tell the app so</Link>: “Tell the app something more” → “A settings
        file”. If it lies in another folder, add that folder on the same page.
      </p>
    </Notice>
  );
}

/** One of the parts, in the file that is open. */
function OpenPart(p: { part: Part; file: SettingsFileView; onFile(target: string): void }) {
  const { part, file, onFile } = p;
  switch (part) {
    case 'keys':
      return <KeyTable file={file} onFile={onFile} />;
    case 'text':
      return <AsText key={file.target} file={file} onFile={onFile} />;
    case 'paste':
      return <PasteLines />;
    case 'numbered':
      return <NumberedSections />;
    case 'search':
      return <SearchOrder />;
    case 'launch':
      return <LaunchLine />;
    case 'sets':
      return <Sets />;
    case 'memory':
      return <MemoryRoom />;
  }
}

/** The switches that packs need, what has come undone, and every settings file by key and as text. */
export function Settings() {
  const game = useGame();
  const { settings, beyondKeys: more } = game;
  const { at, open } = useAddress();
  const part = PARTS.find((one) => one === at('part')) ?? 'keys';
  useNextSetting();
  const file = settings.find((one) => one.target === at('file')) ?? settings[0];
  if (!file) return <NoFiles />;
  const has = partsOf(game);
  // In a game that nobody described a tool that finds nothing says what it looks for, and how to tell it.
  const shown = PARTS.filter((one) => has[one] || (!game.demo && one in LOOKS_FOR));
  const inAddress = part === 'keys' ? undefined : part;
  return (
    <>
      <h1 className="visually-hidden">Settings of {game.title}</h1>
      <Switches />
      <AskedSwitches />
      <Needs />
      <Lost />
      <ReadOnly />
      {game.proposals.length + more.asks.length > 0 && <Proposals />}
      <PartsNav
        shown={shown}
        part={part}
        onPart={(one) => open({ part: one === 'keys' ? undefined : one, file: at('file') })}
      />
      {has[part] ? (
        <OpenPart part={part} file={file} onFile={(next) => open({ part: inAddress, file: next })} />
      ) : (
        <NothingFound part={part} />
      )}
    </>
  );
}
