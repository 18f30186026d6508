'use client';

import { Button } from 'react-bootstrap';
import { withOption } from '@/core';
import { useEngine, useGame } from '@/ui/engine';
import { place } from '@/ui/shared/format';
import { Notice } from '@/ui/shared/Notice';
import { Tag } from '@/ui/shared/Tag';

/** What packs' read-mes tell to set, each to be put in with one click. */
export function Proposals() {
  const { proposals: all, packs, roots, settingsMore } = useGame();
  const { act, busy } = useEngine();
  const proposals = all.filter(({ flag }) => !flag);
  if (proposals.length + settingsMore.asks.length === 0) return null;
  return (
    <section className="sheet" aria-label="What your packs ask for">
      <h2>What your packs’ read-mes ask for</h2>
      <ul className="reasons mt-1">
        {proposals.map(({ layer, pack, file, path, value, now, line }) => {
          const tag = packs.find((one) => one.layer === layer)?.tag;
          return (
            <li className="between" key={`${layer} ${file} ${path.join(' ')}`}>
              <span className="row-of">
                {tag && <Tag tag={tag} name={pack} />}
                <span>
                  <span className="path">
                    {path.join(' › ')} = <strong>{value}</strong>
                  </span>{' '}
                  <span className="small quiet">
                    in {place(file, roots)}: {now === undefined ? 'new' : `now ${now}`}; line {line} of its read-me
                  </span>
                </span>
              </span>
              <Button size="sm" variant="outline-primary" disabled={busy} aria-label={`Set ${path.join(' › ')} to ${value}`} onClick={() => void act((engine) => engine.setEdit(file, path, value))}>
                Put it in
              </Button>
            </li>
          );
        })}
        {settingsMore.asks.map((ask) => {
          const tag = packs.find((one) => one.layer === ask.layer)?.tag;
          const says = ask.kind === 'option' ? [ask.option, ask.value].join(' ').trim() : `[${ask.section} N] ${ask.keys.map(({ key, value }) => `${key}=${value}`).join(' ')}`;
          const take = () => void act((engine) => (ask.kind === 'option' ? engine.changeSettings({ do: 'launch', line: withOption(settingsMore.launch?.line ?? '', ask.option, ask.value) }) : engine.changeSettings({ do: 'number add', file: ask.file, keys: ask.keys })));
          return (
            <li className="between" key={`${ask.layer} ${says}`}>
              <span className="row-of">
                {tag && <Tag tag={tag} name={ask.pack} />}
                <span>
                  <span className="path">
                    <strong>{says}</strong>
                  </span>{' '}
                  <span className="small quiet">
                    {ask.kind === 'option' ? 'in the launch line' : `in ${place(ask.file, roots)}, with the next free number`}; line {ask.line} of its read-me
                  </span>
                </span>
              </span>
              <Button size="sm" variant="outline-primary" disabled={busy} aria-label={`Put in ${says}`} onClick={take}>
                Put it in
              </Button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** Switches that a pack's read-me asks for: off until they are on, and the loudest thing on the page while off. */
export function AskedSwitches() {
  const { proposals, packs, roots } = useGame();
  const { act, busy } = useEngine();
  return proposals.filter(({ flag }) => flag).map(({ layer, pack, file, path, value, now, line, text }) => {
    const tag = packs.find((one) => one.layer === layer)?.tag;
    return (
      <Notice
        key={`${layer} ${file} ${path.join(' ')}`} level="wrong" title={`“${path.at(-1) ?? ''}” is ${now}, and “${pack}” asks for ${value}`}
        action={
          <Button size="sm" disabled={busy} aria-label={`Set ${path.join(' › ')} to ${value}`} onClick={() => void act((engine) => engine.setEdit(file, path, value))}>
            Set it to {value}
          </Button>
        }
      >
        <p>
          {tag && <Tag tag={tag} name={pack} />} Line {line} of its read-me: “{text.replace(/[.]$/, '')}”. As long as it is otherwise, the game may pass over what the pack brings.
        </p>
        <p className="small quiet">
          <span className="path">{path.join(' › ')}</span> in <span className="path">{place(file, roots)}</span> is {now}. Not one other byte of the file changes.
        </p>
      </Notice>
    );
  });
}
