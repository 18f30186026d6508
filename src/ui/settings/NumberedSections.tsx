'use client';

import { useState } from 'react';
import { useEngine, useGame } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { many, place } from '@/ui/shared/format';
import { useFormDraft } from '@/ui/shared/useDraft';
import type { NumberedView, SettingsFileView } from '@/worker/contract';

/** Sections whose names end in a number: each names a folder, and new ones take the next number. */
export function NumberedSections() {
  const { settings } = useGame();
  return settings.map((file) => file.numbered && <Sections key={file.target} file={file} view={file.numbered} />);
}

/** One section: what it says, whether its folder is there, and the way to take it out. */
function Section(p: { one: NumberedView['sections'][number]; named: boolean; onRemove(): void }) {
  const {
    one: { section, keys, trouble },
    named,
    onRemove,
  } = p;
  const { busy } = useEngine();
  return (
    <tr>
      <th scope="row" className="path">
        [{section}]
      </th>
      <td className="path small">{keys.map(({ key, value }) => `${key}=${value}`).join('   ')}</td>
      <td className="small">
        {trouble === undefined ? named && 'there, spelled the same' : <strong className="badge-ask">{trouble}</strong>}
      </td>
      <td className="text-end">
        <Button
          size="sm"
          variant="outline-secondary"
          className="py-0"
          disabled={busy}
          aria-label={`Take ${section} out`}
          onClick={onRemove}
        >
          Take out
        </Button>
      </td>
    </tr>
  );
}

function Sections({ file, view }: { file: SettingsFileView; view: NumberedView }) {
  const { roots } = useGame();
  const { act, busy } = useEngine();
  return (
    <section className="sheet stackup" aria-label={file.title}>
      <div className="between">
        <div>
          <h2>{file.title}</h2>
          <p className="small quiet m-0">
            <span className="path">{place(file.target, roots)}</span>: {many(view.sections.length, 'section')}
            {view.inside !== undefined && (
              <>
                , each names a folder in <span className="path">{place(view.inside, roots)}</span>
              </>
            )}
            . The next number is {view.next}.
          </p>
        </div>
        {view.gaps && (
          <Button
            size="sm"
            variant="outline-primary"
            disabled={busy}
            onClick={() => void act((engine) => engine.change({ do: 'renumber', file: file.target }))}
          >
            Close the gaps in the numbers
          </Button>
        )}
      </div>
      <table className="table table-sm m-0">
        <thead>
          <tr>
            <th scope="col">Section</th>
            <th scope="col">What it says</th>
            <th scope="col">Folder</th>
            <th scope="col">
              <span className="visually-hidden">What can be done</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {view.sections.map((one) => (
            <Section
              key={one.section}
              one={one}
              named={view.folderKey !== undefined}
              onRemove={() =>
                void act((engine) => engine.change({ do: 'number remove', file: file.target, section: one.section }))
              }
            />
          ))}
        </tbody>
      </table>
      <AddSection key={view.next} file={file} view={view} />
    </section>
  );
}

/** Folders that no section names yet. */
function Free({ free }: { free: readonly string[] }) {
  if (free.length === 0) return null;
  return (
    <span className="small quiet">
      No section names{' '}
      {free
        .slice(0, 3)
        .map((one) => `“${one}”`)
        .join(', ')}{' '}
      yet.
    </span>
  );
}

function AddSection({ file, view }: { file: SettingsFileView; view: NumberedView }) {
  const { act, busy } = useEngine();
  const names = view.sections.at(-1)?.keys.map(({ key }) => key) ?? ['name', view.folderKey ?? 'folder'];
  const begin: Record<string, string> =
    view.folderKey !== undefined && view.free[0] !== undefined ? { [view.folderKey]: view.free[0] } : {};
  const [values, setValues] = useState(begin);
  const clean = names.every((key) => (values[key] ?? '') === (begin[key] ?? ''));
  const { offer: kept } = useFormDraft(`${view.section} in ${file.target}`, values, clean, setValues);
  const ready = names.every((key) => (values[key] ?? '').trim() !== '');
  return (
    <>
      {kept}
      <Form
        className="row-of"
        aria-label={`Add ${view.section} ${view.next}`}
        onSubmit={(event) => {
          event.preventDefault();
          if (ready)
            void act((engine) =>
              engine.change({
                do: 'number add',
                file: file.target,
                keys: names.map((key) => ({ key, value: (values[key] ?? '').trim() })),
              }),
            );
        }}
      >
        <strong className="path">
          [{view.section} {view.next}]
        </strong>
        {names.map((key) => (
          <Form.Control
            key={key}
            size="sm"
            className="path"
            aria-label={key}
            placeholder={key}
            list={key === view.folderKey ? 'free-folders' : undefined}
            value={values[key] ?? ''}
            onChange={(event) => setValues({ ...values, [key]: event.target.value })}
            style={{ width: '12rem' }}
          />
        ))}
        <datalist id="free-folders">
          {view.free.map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
        <Button size="sm" type="submit" disabled={busy || !ready}>
          Add it
        </Button>
        <Free free={view.free} />
      </Form>
    </>
  );
}
