'use client';

import { Moon, Sun } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState, type ReactNode } from 'react';
import { Dropdown, Modal } from 'react-bootstrap';
import { useEngine, useGame } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { History } from './History';
import { useTheme } from './useTheme';

type Asking = 'reset' | 'remove';

const MORE: [says: (title: string) => string, href: string][] = [
  [(title) => `How ${title} works…`, '/game/card'],
  [() => 'Set-ups: ways to play…', '/game/set-ups'],
  [() => 'What is in the game now…', '/game/files'],
  [() => 'What takes how much room…', '/game/storage'],
  [() => 'Set up another game', '/?choose'],
];

/** Asks once more before the demo is set up anew, or a game leaves the app. */
function AreYouSure(p: { asking: Asking | undefined; title: string; onYes(): void; onNo(): void }) {
  const { asking, title, onYes, onNo } = p;
  return (
    <Modal show={asking !== undefined} onHide={onNo} centered>
      <Modal.Header>
        <Modal.Title as="h2">
          {asking === 'reset' ? 'Start the demo over?' : `Remove ${title} from the app?`}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        {asking === 'reset'
          ? 'The demo game is set up anew: its packs, its ledger and everything deployed in it are gone. Your own games are not touched.'
          : 'This browser forgets its packs, decisions and ledger. The folder on your disk, and what lies beside its originals, stay as they are.'}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="outline-secondary" onClick={onNo}>
          Keep it
        </Button>
        <Button variant="danger" onClick={onYes}>
          {asking === 'reset' ? 'Start over' : 'Remove'}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}

/** Brand, game chooser, light or dark. */
export function Head() {
  const { act } = useEngine();
  const game = useGame();
  const router = useRouter();
  const { dark, toggle } = useTheme();
  const [asking, setAsking] = useState<Asking>();
  const confirm = async () => {
    const what = asking;
    setAsking(undefined);
    if (what === 'reset') await act((engine) => engine.change({ do: 'reset demo' }));
    if (what === 'remove') await act((engine) => engine.change({ do: 'remove game', id: game.id }));
    router.push('/game/bring-in');
  };
  return (
    <header className="head">
      <Link className="brand" href="/game/bring-in">
        <img src="/icon.svg" alt="" width={26} height={26} />
        Tidy Satchel
      </Link>
      <GamesMenu onAsk={setAsking} />
      <span className="quiet small cut">
        {game.roots
          .map(({ title, files, where }) => `${title}: ${files.toLocaleString('en')} files, ${where}`)
          .join('  ·  ')}
      </span>
      <History />
      <Link className="btn btn-link p-1 small" href="/game/help">
        Help
      </Link>
      <Button
        variant="link"
        className="p-1"
        onClick={toggle}
        aria-label={dark ? 'Light colours' : 'Dark colours'}
        title={dark ? 'Light colours' : 'Dark colours'}
      >
        {dark ? <Sun size={18} aria-hidden /> : <Moon size={18} aria-hidden />}
      </Button>
      <AreYouSure asking={asking} title={game.title} onYes={() => void confirm()} onNo={() => setAsking(undefined)} />
    </header>
  );
}

interface ItemProps {
  children: ReactNode;
  current?: boolean;
  onChoose(): void;
}

/** A plain button: what the menu's own items say of themselves is for lists to choose from. */
function Item({ children, current, onChoose }: ItemProps) {
  return (
    <button
      type="button"
      className={`dropdown-item ${current ? 'active' : ''}`}
      data-rr-ui-dropdown-item=""
      aria-current={current ? 'true' : undefined}
      onClick={onChoose}
    >
      {children}
    </button>
  );
}

/** The games, and what belongs to the one that is open. */
function GamesMenu({ onAsk }: { onAsk(what: Asking): void }) {
  const { snapshot, act } = useEngine();
  const game = useGame();
  const [open, setOpen] = useState(false);
  const close = () => setOpen(false);
  return (
    <Dropdown show={open} onToggle={setOpen}>
      <Dropdown.Toggle variant="outline-secondary" size="sm" id="games">
        {game.title}
      </Dropdown.Toggle>
      <Dropdown.Menu>
        <p className="dropdown-header m-0">Games</p>
        {snapshot?.games.map(({ id, title, demo }) => (
          <Item
            key={id}
            current={id === game.id}
            onChoose={() => {
              close();
              void act((engine) => engine.change({ do: 'choose game', id }));
            }}
          >
            {title} {demo && <span className="small">(demo)</span>}
          </Item>
        ))}
        <Dropdown.Divider />
        {MORE.map(([says, href]) => (
          <Link key={href} className="dropdown-item" data-rr-ui-dropdown-item="" href={href} onClick={close}>
            {says(game.title)}
          </Link>
        ))}
        <Item
          onChoose={() => {
            close();
            onAsk(game.demo ? 'reset' : 'remove');
          }}
        >
          {game.demo ? 'Start the demo over' : `Remove ${game.title} from the app`}
        </Item>
      </Dropdown.Menu>
    </Dropdown>
  );
}
