'use client';

import { useEffect, useState } from 'react';
import { useEngine, useGame } from '@/ui/engine';
import { Form } from '@/ui/shared/controls';
import { count, place } from '@/ui/shared/format';
import type { SetUpView, WayRef, WaysCompared } from '@/worker/contract';

const refOf = (value: string): WayRef => (value === 'now' ? 'now' : { setUp: value });

/** Two ways to play side by side: packs, who wins which file, and settings. */
export function CompareWays({ setUps }: { setUps: readonly SetUpView[] }) {
  const { engine, snapshot } = useEngine();
  const { roots } = useGame();
  const [a, setA] = useState('now');
  const [b, setB] = useState(setUps.at(-1)?.id ?? 'now');
  const [found, setFound] = useState<WaysCompared>();
  const revision = snapshot?.revision;
  useEffect(() => {
    let current = true;
    if (a === b) setFound(undefined);
    else void engine?.ask({ ask: 'compare ways', a: refOf(a), b: refOf(b) }).then((one) => current && setFound(one));
    return () => {
      current = false;
    };
  }, [engine, a, b, revision]);
  const choice = (value: string, set: (value: string) => void, label: string) => (
    <Form.Select
      size="sm"
      className="w-auto"
      aria-label={label}
      value={value}
      onChange={(event) => set(event.target.value)}
    >
      <option value="now">as it is now</option>
      {setUps.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </Form.Select>
  );
  return (
    <section className="sheet stackup" aria-label="Compare two set-ups">
      <div className="row-of">
        <h2 className="m-0">What differs</h2>
        <span>from</span>
        {choice(a, setA, 'From')}
        <span>to</span>
        {choice(b, setB, 'To')}
      </div>
      {a === b && <p className="m-0 quiet">Choose two different ones.</p>}
      {found && a !== b && <Differences found={found} show={(target) => place(target, roots)} />}
    </section>
  );
}

function Differences({ found, show }: { found: WaysCompared; show(target: string): string }) {
  const { says, files, keys } = found;
  if (says.length + files.total + keys.total === 0) return <p className="m-0">Nothing: they are the same.</p>;
  return (
    <>
      {says.length > 0 && (
        <div>
          <h3>Packs and choices</h3>
          <ul className="m-0">
            {says.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        </div>
      )}
      {files.total > 0 && (
        <Pairs
          title={`Files, ${count(files.total)} in all`}
          rows={files.some.map(({ target, a, b, own }) => {
            const without = own ? 'the game’s own' : 'not there';
            return [show(target), a ?? without, b ?? without];
          })}
          more={files.total - files.some.length}
        />
      )}
      {keys.total > 0 && (
        <Pairs
          title={`Settings, ${count(keys.total)} in all`}
          rows={keys.some.map(({ file, path, a, b }) => [`${show(file)}: ${path}`, a ?? 'as it is', b ?? 'as it is'])}
          more={keys.total - keys.some.length}
        />
      )}
    </>
  );
}

function Pairs({ title, rows, more }: { title: string; rows: [what: string, a: string, b: string][]; more: number }) {
  return (
    <div>
      <h3>{title}</h3>
      <div className="scrolls" tabIndex={0} role="region" aria-label={title}>
        <table className="table table-sm m-0">
          <thead>
            <tr>
              <th scope="col">What</th>
              <th scope="col">From</th>
              <th scope="col">To</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(([what, a, b]) => (
              <tr key={what}>
                <td className="path">{what}</td>
                <td>{a}</td>
                <td>{b}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {more > 0 && <p className="small quiet m-0">And {count(more)} more.</p>}
    </div>
  );
}
