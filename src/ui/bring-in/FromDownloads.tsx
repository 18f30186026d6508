'use client';

import { FolderDown } from 'lucide-react';
import { useCallback, useEffect, useState } from 'react';
import { holdsAll, nameKey, searchWords, type Failure } from '@/core';
import { useEngine } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { Search } from '@/ui/shared/Search';
import { many, moment, size } from '@/ui/shared/format';
import { Notice } from '@/ui/shared/Notice';
import type { DownloadsView } from '@/worker/contract';

/** How often the folder is looked at while it is in sight (milliseconds). */
const EACH = 4000;
/** Downloads that are listed at first. */
const SHOWN = 8;

/** What lies in the downloads folder, looked at again and again; nothing where none can be given. */
function useDownloads() {
  const { engine, snapshot } = useEngine();
  const [asks, setAsks] = useState(false);
  const [view, setView] = useState<DownloadsView>();
  const revision = snapshot?.revision;
  const look = useCallback(async () => {
    if (!engine || document.visibilityState !== 'visible') return;
    // Without the server there is no downloads folder to show; that it is gone is said at the top.
    setView(await engine.ask({ ask: 'downloads' }).catch(() => undefined));
  }, [engine]);
  useEffect(() => {
    let current = true;
    void engine?.ask({ ask: 'given folders' }).then(
      ({ asks: can }) => current && setAsks(can),
      () => undefined,
    );
    return () => {
      current = false;
    };
  }, [engine]);
  useEffect(() => {
    if (!asks) return undefined;
    void look();
    const timer = setInterval(() => void look(), EACH);
    return () => clearInterval(timer);
  }, [asks, look, revision]);
  return { asks, view, setView };
}

/** No folder was given yet. */
function NoFolderYet({ onChoose }: { onChoose(): void }) {
  const { busy } = useEngine();
  return (
    <section className="sheet" aria-label="Downloads folder">
      <h2>Your downloads folder</h2>
      <p className="small quiet">
        Give it once, and what you download stands here by itself. The app only reads in it; nothing is stored twice
        where the disk allows that.
      </p>
      <Button size="sm" variant="outline-primary" disabled={busy} onClick={onChoose}>
        Choose the downloads folder…
      </Button>
    </section>
  );
}

/** What stands in the way of taking one: it must be copied first, or the folder is gone. */
function InTheWay(p: {
  asking: { failure: Failure; names: string[] } | undefined;
  gone: boolean;
  onCopy(names: string[]): void;
  onAnswer(): void;
  onChoose(): void;
}) {
  const { asking, gone, onCopy, onAnswer, onChoose } = p;
  return (
    <>
      {asking && (
        <Notice
          level="note"
          title={asking.failure.says}
          onDismiss={onAnswer}
          action={
            <Button size="sm" onClick={() => (onAnswer(), onCopy(asking.names))}>
              Copy it there
            </Button>
          }
        >
          <p>{asking.failure.next}</p>
        </Notice>
      )}
      {gone && (
        <Notice
          level="wrong"
          title="The folder is not there now."
          action={
            <Button size="sm" onClick={onChoose}>
              Choose it again…
            </Button>
          }
        >
          <p>
            It may have been moved or renamed, or lie on a disk that is not connected. Packs that were taken from it are
            not touched by that.
          </p>
        </Notice>
      )}
    </>
  );
}

/** One download: to be marked or taken, unless it is here already or still on its way. */
function OneDownload(p: { one: DownloadsView['downloads'][number]; marked: boolean; onMark(): void; onTake(): void }) {
  const { one, marked, onMark, onTake } = p;
  const { busy } = useEngine();
  const waits = one.waits !== undefined;
  const taken = one.taken !== undefined;
  return (
    <li className="between align-items-start">
      <Form.Check
        className="grow"
        id={`download-${one.name}`}
        disabled={waits || taken}
        checked={marked}
        onChange={onMark}
        label={
          <>
            <span className="path">{one.name}</span>{' '}
            <span className="small quiet">
              {one.parts.length > 1 ? `${one.parts.length} parts, ` : ''}
              {size(one.size)}, {moment(one.modified)}
              {one.waits && (
                <strong className="d-block">
                  {one.waits.why === 'coming' ? 'Still coming' : `${one.waits.name} is missing`}
                </strong>
              )}
            </span>
          </>
        }
      />
      {taken && <span className="small quiet">Here</span>}
      {!taken && !waits && (
        <Button size="sm" variant="outline-primary" disabled={busy} aria-label={`Take ${one.name}`} onClick={onTake}>
          Take
        </Button>
      )}
    </li>
  );
}

/** What lies in the folder, to be taken one by one or several at once. */
function DownloadList({ downloads, onTake }: { downloads: DownloadsView['downloads']; onTake(names: string[]): void }) {
  const { busy } = useEngine();
  const [marked, setMarked] = useState<string[]>([]);
  const [all, setAll] = useState(false);
  const [search, setSearch] = useState('');
  const words = searchWords(search);
  const fits = downloads.filter(({ name }) => holdsAll(nameKey(name), words));
  const listed = all || words.length > 0 ? fits.slice(0, 300) : fits.slice(0, SHOWN);
  const ready = (name: string) => downloads.some((one) => one.name === name && !one.waits && one.taken === undefined);
  const chosen = marked.filter(ready);
  const partsOf = (names: readonly string[]) =>
    downloads.filter(({ name }) => names.includes(name)).flatMap(({ parts }) => parts);
  return (
    <>
      {downloads.length > SHOWN && <Search label="Find a download" value={search} onChange={setSearch} />}
      <ul className="list-unstyled stackup m-0" aria-label="Downloads, newest first">
        {listed.map((one) => (
          <OneDownload
            key={one.name}
            one={one}
            marked={chosen.includes(one.name)}
            onMark={() =>
              setMarked(chosen.includes(one.name) ? chosen.filter((name) => name !== one.name) : [...chosen, one.name])
            }
            onTake={() => onTake(one.parts)}
          />
        ))}
      </ul>
      {listed.length < fits.length && (
        <Button variant="link" size="sm" className="align-self-start p-0" onClick={() => setAll(true)}>
          Show all {many(fits.length, 'download')}
        </Button>
      )}
      {chosen.length > 1 && (
        <Button
          size="sm"
          className="align-self-start"
          disabled={busy}
          onClick={() => (setMarked([]), onTake(partsOf(chosen)))}
        >
          <FolderDown size={15} aria-hidden /> Take these {chosen.length}
        </Button>
      )}
    </>
  );
}

interface FromDownloadsProps {
  onTake(names: string[], copy?: boolean): void;
  asking: { failure: Failure; names: string[] } | undefined;
  onAnswer(): void;
}

/** The downloads folder, given once: what comes into it stands here by itself. It is only ever read. */
export function FromDownloads({ onTake, asking, onAnswer }: FromDownloadsProps) {
  const { act } = useEngine();
  const { asks, view, setView } = useDownloads();

  if (!asks) return null;
  const choose = async () => {
    const found = await act((one) => one.ask({ ask: 'choose downloads' }));
    if (found) setView(found);
  };
  if (!view) return <NoFolderYet onChoose={() => void choose()} />;
  return (
    <section className="sheet stackup grow" aria-label="Downloads folder" style={{ overflow: 'auto' }}>
      <DownloadsHead path={view.path} onForgotten={() => setView(undefined)} />
      <InTheWay
        asking={asking}
        gone={view.gone === true}
        onCopy={(names) => onTake(names, true)}
        onAnswer={onAnswer}
        onChoose={() => void choose()}
      />
      {!view.gone && view.downloads.length === 0 && (
        <p className="m-0">No archive lies in it. What you download appears here by itself.</p>
      )}
      <DownloadList downloads={view.downloads} onTake={onTake} />
    </section>
  );
}

/** Where the app looks, and how to end that. */
function DownloadsHead({ path, onForgotten }: { path: string; onForgotten(): void }) {
  const { act, busy } = useEngine();
  return (
    <>
      <div className="between">
        <h2 className="m-0">From your downloads</h2>
        <Button
          size="sm"
          variant="link"
          className="p-0"
          disabled={busy}
          title={path}
          onClick={() => void act((one) => one.change({ do: 'forget downloads' })).then(onForgotten)}
        >
          Look there no more
        </Button>
      </div>
      <p className="small quiet m-0 cut path" title={path}>
        {path}
      </p>
    </>
  );
}
