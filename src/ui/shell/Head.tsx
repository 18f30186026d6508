'use client';

import { Moon, Sun } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Dropdown, Modal } from 'react-bootstrap';
import { useEngine, useGame } from '@/ui/engine';
import { Button } from '@/ui/shared/controls';
import { History } from './History';
import { useTheme } from './useTheme';

/** Brand, game chooser, light or dark. */
export function Head() {
  const { snapshot, act } = useEngine();
  const game = useGame();
  const router = useRouter();
  const { dark, toggle } = useTheme();
  const [asking, setAsking] = useState<'reset' | 'remove'>();
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
      <Dropdown>
        <Dropdown.Toggle variant="outline-secondary" size="sm" id="games">
          {game.title}
        </Dropdown.Toggle>
        <Dropdown.Menu>
          <Dropdown.Header>Games</Dropdown.Header>
          {snapshot?.games.map(({ id, title, demo }) => (
            <Dropdown.Item
              key={id}
              active={id === game.id}
              onClick={() => void act((engine) => engine.change({ do: 'choose game', id }))}
            >
              {title} {demo && <span className="small">(demo)</span>}
            </Dropdown.Item>
          ))}
          <Dropdown.Divider />
          <Dropdown.Item as={Link} href="/game/card">
            How {game.title} works…
          </Dropdown.Item>
          <Dropdown.Item as={Link} href="/game/set-ups">
            Set-ups: ways to play…
          </Dropdown.Item>
          <Dropdown.Item as={Link} href="/game/files">
            What is in the game now…
          </Dropdown.Item>
          <Dropdown.Item as={Link} href="/game/storage">
            What takes how much room…
          </Dropdown.Item>
          <Dropdown.Item as={Link} href="/?choose">
            Set up another game
          </Dropdown.Item>
          {game.demo ? (
            <Dropdown.Item onClick={() => setAsking('reset')}>Start the demo over</Dropdown.Item>
          ) : (
            <Dropdown.Item onClick={() => setAsking('remove')}>Remove {game.title} from the app</Dropdown.Item>
          )}
        </Dropdown.Menu>
      </Dropdown>
      <span className="quiet small cut">
        {game.roots
          .map(({ title, files, where }) => `${title}: ${files.toLocaleString('en')} files, ${where}`)
          .join('  ·  ')}
      </span>
      <History />
      <Button
        variant="link"
        className="p-1"
        onClick={toggle}
        aria-label={dark ? 'Light colours' : 'Dark colours'}
        title={dark ? 'Light colours' : 'Dark colours'}
      >
        {dark ? <Sun size={18} aria-hidden /> : <Moon size={18} aria-hidden />}
      </Button>
      <Modal show={asking !== undefined} onHide={() => setAsking(undefined)} centered>
        <Modal.Header>
          <Modal.Title as="h2">
            {asking === 'reset' ? 'Start the demo over?' : `Remove ${game.title} from the app?`}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          {asking === 'reset'
            ? 'The demo game is set up anew: its packs, its ledger and everything deployed in it are gone. Your own games are not touched.'
            : 'This browser forgets its packs, decisions and ledger. The folder on your disk, and what lies beside its originals, stay as they are.'}
        </Modal.Body>
        <Modal.Footer>
          <Button variant="outline-secondary" onClick={() => setAsking(undefined)}>
            Keep it
          </Button>
          <Button variant="danger" onClick={() => void confirm()}>
            {asking === 'reset' ? 'Start over' : 'Remove'}
          </Button>
        </Modal.Footer>
      </Modal>
    </header>
  );
}
