'use client';

import dynamic from 'next/dynamic';
import { useCallback, useEffect, useRef, useState, type RefObject } from 'react';
import type { DiffLine } from '@/core';
import { useEngine } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { many } from '@/ui/shared/format';
import { useDraft } from '@/ui/shared/useDraft';
import { DiffLines } from '@/ui/stack/CompareTexts';
import type { SettingsFileView, SettingsText } from '@/worker/contract';
import { FileChooser } from './FileChooser';
import type { EditorHandle } from './TextEditor';

const TextEditor = dynamic(() => import('./TextEditor'), {
  ssr: false,
  loading: () => <p className="small quiet m-0">Opening the editor…</p>,
});

interface Preview {
  edits: number;
  lines: DiffLine[];
  other: boolean;
}

const asTyped = ({ text }: SettingsText): string => text.replaceAll('\r\n', '\n');

/** The text as it will be, and as it is being written; that is not taken away by a new picture. */
function useText(file: SettingsFileView) {
  const { engine, snapshot } = useEngine();
  const [loaded, setLoaded] = useState<SettingsText>();
  const [text, setText] = useState<string>();
  const revision = snapshot?.revision;
  const changed = text !== undefined && loaded !== undefined && text !== asTyped(loaded);
  const load = (found: SettingsText) => {
    setLoaded(found);
    setText(asTyped(found));
  };
  useEffect(() => {
    if (changed) return;
    let current = true;
    void engine?.ask({ ask: 'settings text', file: file.target }).then(
      (found) => {
        if (current) load(found);
      },
      () => undefined,
    );
    return () => {
      current = false;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only a new picture or file asks again
  }, [engine, file.target, revision]);
  return { loaded, load, text, setText, changed };
}

/** What of a text would be taken, to be looked at first. */
function Changes({ preview, onTake }: { preview: Preview; onTake(): void }) {
  const { busy } = useEngine();
  return (
    <div className="stackup" role="status">
      <p className="m-0">
        <strong>{many(preview.edits, 'value')} would change.</strong>{' '}
        {preview.other &&
          'Comments, blank lines and the order stay as they are in the file: the game writes it too, so only values are changed.'}
      </p>
      {preview.lines.length > 0 && (
        <div style={{ maxHeight: '12rem', overflow: 'auto' }}>
          <DiffLines lines={preview.lines} />
        </div>
      )}
      <Button size="sm" className="align-self-start" disabled={busy || preview.edits === 0} onClick={onTake}>
        {preview.edits === 0 ? 'Nothing to take' : `Take ${many(preview.edits, 'value')}`}
      </Button>
    </div>
  );
}

function TooLong() {
  return <p className="m-0">This file is too long to be edited as text. Search and change its values under “Keys”.</p>;
}

/** Scrolls to a key while its name is typed. */
function GoToKey({ editor }: { editor: RefObject<EditorHandle | null> }) {
  const [goal, setGoal] = useState('');
  return (
    <Form.Control
      size="sm"
      type="search"
      className="path"
      aria-label="Go to a key"
      placeholder="Go to a key"
      value={goal}
      style={{ maxWidth: '12rem' }}
      onChange={(event) => {
        setGoal(event.target.value);
        editor.current?.goTo(event.target.value);
      }}
    />
  );
}

/** A settings file as text. What is taken are edits of keys, shown as a comparison first. */
export function AsText({ file, onFile }: { file: SettingsFileView; onFile(target: SettingsFileView['target']): void }) {
  const { act, busy } = useEngine();
  const { loaded, load, text, setText, changed } = useText(file);
  const [preview, setPreview] = useState<Preview>();
  const fits = loaded && !loaded.tooLong;
  const editor = useRef<EditorHandle>(null);
  const onText = useCallback(
    (next: string) => {
      setText(next);
      setPreview(undefined);
    },
    [setText],
  );
  const { offer: kept } = useDraft(`text of ${file.target}`, { text: text ?? '', clean: !changed }, onText);
  const look = async () =>
    setPreview(await act((remote) => remote.ask({ ask: 'preview text', file: file.target, text: text ?? '' })));
  const take = async () => {
    const done = await act(async (remote) => {
      await remote.change({ do: 'take text', file: file.target, text: text ?? '' });
      return remote.ask({ ask: 'settings text', file: file.target });
    });
    if (!done) return;
    load(done);
    setPreview(undefined);
  };
  return (
    <section className="sheet stackup fill" aria-label="As text">
      <div className="row-of">
        <FileChooser file={file} onFile={onFile} />
        <GoToKey editor={editor} />
      </div>
      {fits && kept}
      {loaded?.tooLong && <TooLong />}
      {text !== undefined && fits && (
        <div className="fill editor">
          <TextEditor
            ref={editor}
            label={`Text of ${file.title}`}
            dialect={file.dialect}
            text={text}
            known={loaded.known}
            onText={onText}
          />
        </div>
      )}
      <div className="row-of">
        <Button size="sm" disabled={busy || !changed} onClick={() => void look()}>
          Look at the changes
        </Button>
        {changed && loaded && (
          <Button size="sm" variant="outline-secondary" onClick={() => onText(asTyped(loaded))}>
            Start over
          </Button>
        )}
        <span className="small quiet">As the file will be after the next deployment. Search with Ctrl+F.</span>
      </div>
      {preview && <Changes preview={preview} onTake={() => void take()} />}
    </section>
  );
}
