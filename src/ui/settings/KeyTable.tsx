'use client';

import { useEffect, useState } from 'react';
import { useEngine, useGame } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { useAddress } from '@/ui/shared/useAddress';
import { useEscape } from '@/ui/shared/useEscape';
import { Search } from '@/ui/shared/Search';
import { Path } from '@/ui/shared/Path';
import { PagedRows } from '@/ui/shared/PagedRows';
import type { SettingRow, SettingsFileView } from '@/worker/contract';
import { EditKey } from './EditKey';
import { FileChooser } from './FileChooser';
import { NewKey } from './NewKey';

/** The key that is being changed: it stands in the address. */
function useEditedKey(file: SettingsFileView) {
  const { engine, snapshot } = useEngine();
  const { at, open } = useAddress();
  const wanted = at('key');
  const [found, setFound] = useState<{ of: string; row: SettingRow | undefined }>();
  const of = `${file.target} ${wanted}`;
  const revision = snapshot?.revision;
  useEffect(() => {
    if (!engine || wanted === undefined) return undefined;
    let current = true;
    void engine
      .ask({ ask: 'setting row', file: file.target, path: wanted })
      .then((row) => current && setFound({ of, row }));
    return () => {
      current = false;
    };
  }, [engine, wanted, of, file.target, revision]);
  const here = wanted !== undefined && found?.of === of;
  return {
    gone: here && found.row === undefined,
    editing: here ? found.row : undefined,
    edit(row: SettingRow) {
      // What is known of it already need not be waited for.
      setFound({ of: `${row.file} ${row.path}`, row });
      open({ file: row.file, key: row.path });
    },
    /** What ends an earlier one closes no later one. */
    close(row: SettingRow) {
      if (new URLSearchParams(window.location.search).get('key') === row.path) open({ file: row.file });
    },
  };
}

/** One key: what it is, what it will be and for whom, what it does. */
function KeyCells({ row, all, onEdit }: { row: SettingRow; all: boolean; onEdit(row: SettingRow): void }) {
  return (
    <>
      <span role="cell" className="cut" title={row.path}>
        {all && <span className="quiet">{row.title}: </span>}
        <Path text={row.path} />
      </span>
      <span role="cell" className="cut">
        {row.value === undefined ? (
          <span className="quiet">not there{row.standard === undefined ? '' : ` (${row.standard})`}</span>
        ) : (
          <Path text={row.value} />
        )}
      </span>
      <span role="cell" className="cut small" title={[row.wanted, ...row.against].join('; ')}>
        {row.wanted !== undefined && <Wanted wanted={row.wanted} now={row.value} />}
        <ForWhom row={row} />
        {row.against.length > 0 && <strong className="badge-ask"> · {row.against.join(', ')}</strong>}
        {row.by === undefined && row.elsewhere.length === 0 && <span className="quiet">the same</span>}
        {row.elsewhere.map(({ title, value, counts }) => (
          <span key={title} className="quiet">
            {' '}
            {counts ? <strong>{value} counts</strong> : `not ${value}`}, from “{title}”
          </span>
        ))}
      </span>
      <span role="cell" className="small cut" title={row.meaning}>
        {row.meaning ?? <span className="quiet">not known to the app</span>}
      </span>
      <span role="cell">
        <Button
          size="sm"
          variant="outline-secondary"
          className="py-0"
          aria-label={`Change ${row.path}${all ? ` in ${row.title}` : ''}`}
          onClick={() => onEdit(row)}
        >
          Change
        </Button>
      </span>
    </>
  );
}

/** Who wants it so. */
function ForWhom({ row: { by, wanted } }: { row: SettingRow }) {
  if (by === undefined) return null;
  const who = by === 'you' ? 'you' : `“${by}”`;
  return <span className="quiet"> {wanted === undefined ? `as ${who} wanted` : `for ${who}`}</span>;
}

/** All keys of one settings file at a time: what they are, what they will be, and who wants it. */
export function KeyTable({
  file,
  onFile,
}: {
  file: SettingsFileView;
  onFile(target: SettingsFileView['target']): void;
}) {
  const [search, setSearch] = useState('');
  const { settings } = useGame();
  const [everywhere, setEverywhere] = useState(false);
  const all = everywhere && search.trim() !== '';
  const { gone, editing, edit, close } = useEditedKey(file);
  useEscape(editing && (() => close(editing)));
  return (
    <section className="sheet stackup fill" aria-label="Keys">
      <div className="row-of">
        <FileChooser file={file} onFile={onFile} />
        {settings.length > 1 && (
          <Form.Check
            type="switch"
            id="all-settings"
            label={`In all ${settings.length} files`}
            checked={everywhere}
            onChange={() => setEverywhere(!everywhere)}
            className="small"
          />
        )}
        <Search label="Find a key" hint="Find a key or a value" value={search} onChange={setSearch} />
      </div>
      {editing ? (
        <EditKey
          key={`${editing.file} ${editing.path}`}
          file={settings.find(({ target }) => target === editing.file) ?? file}
          row={editing}
          onDone={() => close(editing)}
        />
      ) : (
        <NewKey key={file.target} file={file.target} />
      )}
      {gone && <p className="m-0">The key that the address names is not in this file.</p>}
      <div className="fill" style={{ minHeight: '12rem' }}>
        <PagedRows<SettingRow>
          label="Keys"
          empty="No key of that name."
          query={{ view: 'settings', file: all ? undefined : file.target, search }}
          columns="minmax(0, 4fr) minmax(0, 2fr) minmax(0, 3fr) minmax(0, 4fr) 5.5rem"
          heads={['Key', 'In the file now', 'After the next deployment', 'What it does', 'Change it']}
          cells={(row) => <KeyCells row={row} all={all} onEdit={edit} />}
        />
      </div>
    </section>
  );
}

/** What the file will say: another value, a line that names something and has no value, or nothing any more. */
function Wanted({ wanted, now }: { wanted: string; now: string | undefined }) {
  return (
    <strong className="verb verb-edit">
      {wanted !== '' ? <Path text={wanted} /> : now === undefined ? '(a new line)' : '(removed)'}
    </strong>
  );
}
