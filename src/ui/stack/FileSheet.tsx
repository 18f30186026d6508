'use client';

import { ArrowLeft } from 'lucide-react';
import { useEffect, useState } from 'react';
import { soundType, type ModelInfo } from '@/core';
import { useEngine, useGame } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { many, moment, place, size } from '@/ui/shared/format';
import { Tag } from '@/ui/shared/Tag';
import type { FileStory, StoryVersion } from '@/worker/contract';
import { BeforeAfter } from '@/ui/shared/BeforeAfter';
import { CompareTexts } from './CompareTexts';
import type { StackView } from './stackView';

const ORIGINAL = 'original';
const STANDING_WORDS = {
  'on top': 'used',
  hidden: 'covered',
  identical: 'the same content',
  merged: 'merged',
} as const;

/** The layers that have a file, asked for again with each change. */
function useStory(target: string): FileStory | undefined {
  const { engine, snapshot } = useEngine();
  const [story, setStory] = useState<FileStory>();
  const revision = snapshot?.revision;
  useEffect(() => {
    if (!engine) return undefined;
    let current = true;
    void engine.ask({ ask: 'story of file', target }).then(
      (found) => current && setStory(found),
      () => undefined,
    );
    return () => {
      current = false;
    };
  }, [engine, target, revision]);
  return story;
}

/** What is there now, what comes next, and what was there before. */
function InWords({ story: { now, versions, winner, original } }: { story: FileStory }) {
  const used = versions.find(({ from }) => from === winner);
  const by = now?.by === undefined ? 'the game’s own file' : `put there by “${now.by}”`;
  const untouched = versions.length === 0 ? 'No pack touches it.' : 'The next deployment leaves it to the game.';
  const safe = now?.by === undefined ? 'is kept before anything replaces it' : 'is kept safe';
  return (
    <p className="small m-0">
      {now ? `In the folder now: ${by}, ${size(now.size)}.` : 'The folder has no such file now.'}{' '}
      {used ? `The next deployment uses “${used.name}”.` : untouched}{' '}
      {original ? `The game’s own file ${safe}.` : 'The game had no such file.'}
    </p>
  );
}

/** What can be decided about it. */
function Decide({ story, target, show }: { story: FileStory; target: string; show(view: StackView): void }) {
  const { act, busy } = useEngine();
  const pick = (scope: 'file' | 'folder' | 'kind', at: string, layer: string | undefined) =>
    void act((one) => one.change({ do: 'pick', scope, at, layer }));
  const used = story.versions.find(({ from }) => from === story.winner);
  const byPack = used?.tag ? used : undefined;
  const several = story.versions.filter(({ tag }) => tag).length > 1;
  const merge = async () => {
    const id = story.merge ?? (await act((one) => one.change({ do: 'merge file', target })));
    if (id) show({ kind: 'merge', id });
  };
  return (
    <div className="row-of small">
      {story.picks.some(({ scope }) => scope === 'file') && (
        <Button size="sm" variant="outline-secondary" disabled={busy} onClick={() => pick('file', target, undefined)}>
          Let the order decide again
        </Button>
      )}
      {byPack && several && (
        <>
          <Button
            size="sm"
            variant="outline-secondary"
            disabled={busy}
            onClick={() => pick('folder', target.slice(0, target.lastIndexOf('/')), byPack.from)}
          >
            “{byPack.name}” wins this whole folder
          </Button>
          <Button
            size="sm"
            variant="outline-secondary"
            disabled={busy}
            onClick={() => pick('kind', story.kind, byPack.from)}
          >
            …every {story.kind} it has
          </Button>
        </>
      )}
      {byPack && (
        <Button
          size="sm"
          variant="outline-secondary"
          disabled={busy}
          onClick={() => void act((one) => one.change({ do: 'leave out', layer: byPack.from, target }))}
        >
          Leave “{byPack.name}”’s file out
        </Button>
      )}
      {(story.merge !== undefined || (several && story.isText)) && (
        <Button size="sm" variant="primary" disabled={busy} onClick={() => void merge()}>
          {story.merge ? 'Look at the merge' : 'Merge what they change'}
        </Button>
      )}
    </div>
  );
}

/** Two of its versions beside each other. */
function Compare({ story, target, versions }: { story: FileStory; target: string; versions: readonly StoryVersion[] }) {
  const revision = useEngine().snapshot?.revision;
  const [pair, setPair] = useState<[string, string]>();
  const [a, b] = pair ?? [versions[1]?.from ?? versions[0]?.from ?? '', versions[0]?.from ?? ''];
  const what = versions.some(({ picture }) => picture) ? 'picture' : soundType(target) ? 'sound' : undefined;
  const models = versions.some(({ model }) => model);
  return (
    <>
      <div className="row-of small">
        <span>Compare</span>
        <Choice label="the one side" versions={versions} value={a} onChange={(value) => setPair([value, b])} />
        <span>with</span>
        <Choice label="the other side" versions={versions} value={b} onChange={(value) => setPair([a, value])} />
      </div>
      {what ? (
        <BeforeAfter
          what={what}
          target={target}
          a={a}
          b={b}
          names={[nameOf(versions, a), nameOf(versions, b)]}
          revision={revision}
        />
      ) : story.isText ? (
        <CompareTexts target={target} a={a} b={b} revision={revision} />
      ) : (
        <p className="small quiet m-0">
          {models
            ? 'A model is not drawn here: what each says about itself stands above.'
            : 'Neither a picture, a sound nor a text: only sizes and checksums can be compared.'}
        </p>
      )}
    </>
  );
}

/** One file of the game: every layer that has it down to the original, compared and decided. */
export function FileSheet({ target, show }: { target: string; show(view: StackView): void }) {
  const game = useGame();
  const { act, busy } = useEngine();
  const story = useStory(target);
  if (!story) return <p className="quiet">Looking at it…</p>;
  const versions = [...story.versions, ...(story.original ? [story.original] : [])];
  return (
    <div className="stackup scroll">
      <div className="row-of">
        <Button size="sm" variant="outline-secondary" onClick={() => show({ kind: 'picture' })}>
          <ArrowLeft size={15} aria-hidden /> Overlaps
        </Button>
        <h2 className="path grow">{place(target, game.roots)}</h2>
      </div>
      <InWords story={story} />
      <div className="table-responsive">
        <table className="table table-sm m-0 align-middle">
          <thead>
            <tr className="small">
              <th>Use</th>
              <th>Layer, topmost first</th>
              <th>Stands</th>
              <th>Size</th>
              <th>What it is</th>
              <th>Since</th>
              <th>SHA-256</th>
            </tr>
          </thead>
          <tbody>
            {versions.map((version) => (
              <Version
                key={version.from}
                version={version}
                target={target}
                wins={version.from === (story.winner ?? ORIGINAL)}
                disabled={busy || (version.tag === undefined && version.from !== ORIGINAL)}
                onUse={() =>
                  void act((one) => one.change({ do: 'pick', scope: 'file', at: target, layer: version.from }))
                }
              />
            ))}
          </tbody>
        </table>
      </div>
      <Decide story={story} target={target} show={show} />
      {versions.length > 1 && <Compare story={story} target={target} versions={versions} />}
    </div>
  );
}

/** What a model says about itself, as far as its format tells. */
const aboutModel = ({ format, meshes, vertices, faces, materials, animations }: ModelInfo): string =>
  [
    format,
    ...(meshes === undefined ? [] : [many(meshes, 'mesh', 'meshes')]),
    ...(vertices === undefined ? [] : [many(vertices, 'vertex', 'vertices')]),
    ...(faces === undefined ? [] : [many(faces, 'face')]),
    ...(materials === undefined ? [] : [many(materials, 'material')]),
    ...(animations ? [many(animations, 'animation')] : []),
  ].join(', ');

const nameOf = (versions: readonly StoryVersion[], from: string): string =>
  versions.find((one) => one.from === from)?.name ?? '';

function Version({
  version,
  target,
  wins,
  disabled,
  onUse,
}: {
  version: StoryVersion;
  target: string;
  wins: boolean;
  disabled: boolean;
  onUse(): void;
}) {
  const { roots } = useGame();
  const { name, tag, standing, path, date, picture, model, sha256 } = version;
  return (
    <tr className={wins ? 'fw-semibold' : ''}>
      <td>
        <Form.Check
          type="radio"
          name="winner"
          aria-label={`Use ${name}`}
          checked={wins}
          disabled={disabled}
          onChange={onUse}
        />
      </td>
      <td title={path === target ? place(target, roots) : path}>
        <span className="row-of flex-nowrap">
          {tag && <Tag tag={tag} />} {name}
        </span>
      </td>
      <td className="small">{standing ? STANDING_WORDS[standing] : wins ? 'used' : ''}</td>
      <td className="small text-nowrap">{size(version.size)}</td>
      <td className="small">
        {picture
          ? `${picture.width} × ${picture.height} ${picture.format.toUpperCase()}`
          : model
            ? aboutModel(model)
            : ''}
      </td>
      <td className="small text-nowrap">{date === undefined ? '' : moment(date)}</td>
      <td className="path small">
        {sha256 !== undefined && (
          <details>
            <summary>{sha256.slice(0, 8)}</summary>
            <span className="whole-path">{sha256}</span>
          </details>
        )}
      </td>
    </tr>
  );
}

function Choice({
  label,
  versions,
  value,
  onChange,
}: {
  label: string;
  versions: readonly StoryVersion[];
  value: string;
  onChange(value: string): void;
}) {
  return (
    <Form.Select
      size="sm"
      aria-label={label}
      value={value}
      onChange={(event) => onChange(event.target.value)}
      style={{ width: 'auto', maxWidth: '16rem' }}
    >
      {versions.map(({ from, name }) => (
        <option key={from} value={from}>
          {name}
        </option>
      ))}
    </Form.Select>
  );
}
