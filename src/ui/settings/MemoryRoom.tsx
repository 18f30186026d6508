'use client';

import { Button, Form } from 'react-bootstrap';
import { Bar, BarChart, Cell, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { useEngine, useGame } from '@/ui/engine';
import { many, place, size } from '@/ui/shared/format';
import { Tag } from '@/ui/shared/Tag';

const GB = 1024 ** 3;
const CHOICES = [4, 8, 16, 32, 64];
const LINE = 34;

/** What the packs' textures take once loaded, against what the machine has, and what to do with settings that cost memory. */
export function MemoryRoom() {
  const { settingsMore, roots } = useGame();
  const { act, busy } = useEngine();
  const { packs, total, machine, advice } = settingsMore.memory;
  const bars = [...packs].sort((a, b) => b.bytes - a.bytes);
  const widest = Math.max(total, machine ?? 0, 1);
  return (
    <section className="sheet stackup" aria-label="Memory">
      <div className="between">
        <div>
          <h2>{total === 0 ? 'Your packs have no textures to load' : `${size(total)} of textures once loaded`}</h2>
          <p className="small quiet m-0">In the memory of the graphics card or the machine, mip levels included; their files are smaller. What the game itself needs comes on top.</p>
        </div>
        <Form.Select size="sm" style={{ width: 'auto' }} aria-label="Memory of your machine" value={machine === undefined ? '' : String(machine / GB)} disabled={busy} onChange={(event) => void act((engine) => engine.changeSettings({ do: 'machine', memory: event.target.value === '' ? undefined : Number(event.target.value) * GB }))}>
          <option value="">My machine has…</option>
          {CHOICES.map((one) => (
            <option key={one} value={one}>
              My machine has {one} GB
            </option>
          ))}
        </Form.Select>
      </div>
      {bars.length > 0 && (
        <figure className="m-0" role="img" aria-label={`Texture memory by pack: ${bars.map(({ name, bytes }) => `${name} ${size(bytes)}`).join(', ')}`}>
          <ResponsiveContainer width="100%" height={(bars.length + 1) * LINE + 34}>
            <BarChart layout="vertical" data={[...bars.map(({ name, bytes, tag }) => ({ name, bytes, tag })), { name: 'All together', bytes: total, tag: undefined }]} margin={{ left: 8, right: 24, top: 4, bottom: 4 }}>
              <XAxis type="number" domain={[0, machine !== undefined && machine <= total * 20 ? widest : total]} tickFormatter={(bytes: number) => size(bytes)} stroke="currentColor" fontSize={12} />
              <YAxis type="category" dataKey="name" width={170} stroke="currentColor" fontSize={12} />
              <Tooltip formatter={(bytes) => [size(Number(bytes)), 'once loaded']} contentStyle={{ background: 'var(--surface)', color: 'inherit', border: '1px solid var(--seam)' }} cursor={{ fill: 'var(--note-bg)' }} />
              <Bar dataKey="bytes" isAnimationActive={false} radius={[0, 4, 4, 0]}>
                {bars.map(({ layer, tag }) => (
                  <Cell key={layer} fill={`var(--tag-${tag.colour % 8})`} />
                ))}
                <Cell fill="var(--strap)" />
              </Bar>
              {machine !== undefined && machine <= total * 20 && <ReferenceLine x={machine} stroke="var(--bs-danger)" strokeDasharray="5 4" label={{ value: 'your machine', position: 'insideTopRight', fontSize: 12, fill: 'currentColor' }} />}
            </BarChart>
          </ResponsiveContainer>
          <figcaption className="picks">
            {bars.map(({ layer, name, tag, bytes, files }) => (
              <span key={layer} className="row-of small">
                <Tag tag={tag} name={name} /> {name}: {size(bytes)} in {many(files, 'picture')}
              </span>
            ))}
          </figcaption>
        </figure>
      )}
      {machine === undefined && <p className="small quiet m-0">Say how much memory your machine has, and the app tells which performance settings fit it.</p>}
      {advice.length > 0 && (
        <ul className="reasons" aria-label="Advice on performance settings">
          {advice.map(({ file, path, now, advice: wanted, why, meaning }) => {
            const is = /^(1|true|on|yes)$/i.test(now ?? '') ? 'on' : 'off';
            return (
              <li key={`${file} ${path.join(' ')}`} className="between">
                <span>
                  <strong className="path">{path.join(' › ')}</strong> in <span className="path">{place(file, roots)}</span> is {is}: {is === wanted ? 'leave it so.' : `better ${wanted}.`}
                  <span className="d-block small quiet">
                    {meaning} {why}
                  </span>
                </span>
                {is !== wanted && (
                  <Button size="sm" variant="outline-primary" disabled={busy} aria-label={`Turn ${path.join(' › ')} ${wanted}`} onClick={() => void act((engine) => engine.setEdit(file, path, wanted === 'on' ? '1' : '0'))}>
                    Turn it {wanted}
                  </Button>
                )}
              </li>
            );
          })}
        </ul>
      )}
    </section>
  );
}
