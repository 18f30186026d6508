'use client';

import { useRef, useState } from 'react';
import { useEngine, useGame } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { many, moment, oneOr, size } from '@/ui/shared/format';
import { saveFile } from '@/ui/shared/saveFile';
import { useFollow } from '@/ui/shared/useFollow';
import type { KitPackView, KitView } from '@/worker/contract';

const STATES: Record<KitPackView['state'], string> = {
  here: 'is here already',
  inside: 'comes with the kit',
  missing: 'is to be dropped on Bring in',
};

/** One file that carries how the game is played to another machine, or to a friend, and taking one in. */
export function KitSheet() {
  const { act, busy } = useEngine();
  const input = useRef<HTMLInputElement>(null);
  const [withPacks, setWithPacks] = useState(true);
  const [found, setFound] = useState<KitView>();
  const save = async () => {
    const made = await act((engine) => engine.change({ do: 'save kit', withPacks }));
    if (made) saveFile(made.blob, made.name);
  };
  const read = async (file: File | undefined) => {
    setFound(undefined);
    if (file) setFound(await act((engine) => engine.change({ do: 'read kit', name: file.name, file })));
  };
  return (
    <section className="sheet stackup" aria-label="Kit">
      <div>
        <h2>Carry it elsewhere</h2>
        <p className="m-0 quiet">
          A kit is one ZIP with everything you decided here and your own files, for another computer or a friend. Home
          folders and what belongs to this computer stay out of it.
        </p>
      </div>
      <div className="row-of">
        <Button size="sm" disabled={busy} onClick={() => void save()}>
          Save a kit
        </Button>
        <Form.Check
          id="kit-packs"
          label="with the packs inside"
          checked={withPacks}
          onChange={() => setWithPacks(!withPacks)}
        />
        <Button size="sm" variant="outline-primary" disabled={busy} onClick={() => input.current?.click()}>
          Take a kit in…
        </Button>
        <input
          ref={input}
          type="file"
          accept=".zip"
          className="visually-hidden"
          tabIndex={-1}
          aria-label="Choose a kit"
          onChange={(event) => {
            void read(event.target.files?.[0]);
            event.target.value = '';
          }}
        />
      </div>
      {found && <Found kit={found} onDone={() => setFound(undefined)} />}
    </section>
  );
}

/** What a kit holds, and what taking it would mean here. */
function Found({ kit, onDone }: { kit: KitView; onDone(): void }) {
  const { act, busy } = useEngine();
  const { title } = useGame();
  const follow = useFollow();
  const [knowledge, setKnowledge] = useState(false);
  const [folders, setFolders] = useState(() =>
    Object.fromEntries(kit.folders.flatMap(({ id, here }) => (here === undefined ? [] : [[id, here]]))),
  );
  const unknown = kit.folders.filter(({ id }) => !id.includes('/') && folders[id] === undefined).length;
  const missing = kit.packs.filter(({ state }) => state === 'missing').length;
  const take = async () => {
    const follows = follow(missing > 0 ? '/game/bring-in' : '/game/deploy');
    const taken = await act(async (engine) => {
      await engine.change({ do: 'take kit', knowledge, folders });
      return true;
    });
    if (!taken) return;
    onDone();
    follows();
  };
  return (
    <div className="stackup" role="group" aria-label={`Kit of ${kit.title}`}>
      <p className="m-0">
        <strong>A kit of {kit.title}</strong>, made {moment(kit.at)}. Every file in it is what its list says.
        {kit.otherGame && ` This game is called ${title} here: take it only if it is the same game.`}
      </p>
      <KitFolders kit={kit} folders={folders} onChoose={(id, here) => setFolders({ ...folders, [id]: here })} />
      <KitPacks packs={kit.packs} />
      {kit.setUps.length > 0 && <p className="m-0">Set-ups in it: {kit.setUps.join(', ')}.</p>}
      <Listed title="What would change here" items={kit.says} />
      <Listed title="What is otherwise here" items={kit.differs} />
      <Form.Check
        disabled={!kit.canTell}
        id="kit-knowledge"
        label="Take what it tells of the game, too, in place of what the app knows here"
        checked={knowledge}
        onChange={() => setKnowledge(!knowledge)}
      />
      <div className="row-of">
        <Button disabled={busy || unknown > 0} onClick={() => void take()}>
          Take it and look at the plan
        </Button>
        <Button variant="outline-secondary" onClick={onDone}>
          Leave it
        </Button>
        <span className="small quiet">
          {unknown > 0 &&
            `Say first which folder here ${oneOr(unknown, 'the one', 'the ones')} above ${oneOr(unknown, 'is', 'are')}. `}
          Nothing is written to the game before you deploy.
          {missing > 0 &&
            ` ${many(missing, 'pack')} ${oneOr(missing, 'is', 'are')} not in it: drop the download, under any name.`}
        </span>
      </div>
    </div>
  );
}

/** Which folder here each of the kit is, where they are not called the same. */
function KitFolders(props: {
  kit: KitView;
  folders: Record<string, string>;
  onChoose(id: string, here: string): void;
}) {
  const { kit, folders, onChoose } = props;
  const asked = kit.folders.filter(({ id, here }) => id !== here);
  return asked.map(({ id, title, options }) => (
    <label key={id} className="row-of">
      <span>{id.includes('/') ? `Its files for ${title} go here to` : `Its folder “${title}” is here`}</span>
      <Form.Select
        size="sm"
        className="w-auto"
        value={folders[id] ?? ''}
        onChange={(event) => onChoose(id, event.target.value)}
      >
        {(id.includes('/') || folders[id] === undefined) && (
          <option value="">{id.includes('/') ? 'where they went, though it is not here' : 'choose a folder…'}</option>
        )}
        {options.map((one) => (
          <option key={one.id} value={one.id}>
            {one.title}
          </option>
        ))}
      </Form.Select>
    </label>
  ));
}

function Listed({ title, items }: { title: string; items: readonly string[] }) {
  if (items.length === 0) return null;
  return (
    <details open={items.length < 8}>
      <summary>{title}</summary>
      <ul className="m-0">
        {items.map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ul>
    </details>
  );
}

function KitPacks({ packs }: { packs: readonly KitPackView[] }) {
  return (
    <ul className="m-0">
      {packs.map((pack) => (
        <li key={pack.sha256}>
          {pack.name} {STATES[pack.state]}
          {pack.state === 'missing' && (
            <span className="small quiet path">
              {' '}
              {pack.file}, {size(pack.size)}, SHA-256 {pack.sha256}
            </span>
          )}
          {pack.other !== undefined && (
            <span className="small">
              {' '}
              Here is another version of it, “{pack.other}”: the kit’s places are for its own.
            </span>
          )}
        </li>
      ))}
    </ul>
  );
}
