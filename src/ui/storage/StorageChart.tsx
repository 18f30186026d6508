'use client';

import { Bar, BarChart, Cell, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { size } from '@/ui/shared/format';
import { byteTicks } from '@/ui/shared/ticks';
import type { StoredAt, StoredPart } from '@/worker/contract';
import { AT, WHAT } from './storedWords';

const LINE = 34;
const FILL: Record<StoredAt, string> = { browser: 'var(--bs-primary)', vault: 'var(--tag-1)', backup: 'var(--tag-3)' };

/** One bar for each thing that takes room, the longest first. */
export default function StorageChart({ parts }: { parts: readonly StoredPart[] }) {
  const bars = [...parts]
    .sort((a, b) => b.bytes - a.bytes)
    .map(({ what, at, bytes }) => ({ name: WHAT[what].title, at, bytes }));
  const ticks = byteTicks(Math.max(...bars.map(({ bytes }) => bytes), 1));
  return (
    <ResponsiveContainer width="100%" height={bars.length * LINE + 44}>
      <BarChart layout="vertical" data={bars} margin={{ left: 8, right: 24, top: 4, bottom: 18 }}>
        <XAxis
          type="number"
          ticks={ticks}
          domain={[0, ticks.at(-1) ?? 1]}
          tickFormatter={(bytes: number) => size(bytes)}
          stroke="currentColor"
          fontSize={12}
          label={{ value: 'room taken', position: 'insideBottom', offset: -12, fontSize: 11, fill: 'currentColor' }}
        />
        <YAxis type="category" dataKey="name" width={170} stroke="currentColor" fontSize={12} />
        <Tooltip
          formatter={(bytes, _name, { payload }) => [size(Number(bytes)), AT[(payload as { at: StoredAt }).at].title]}
          contentStyle={{ background: 'var(--surface)', color: 'inherit', border: '1px solid var(--seam)' }}
          cursor={{ fill: 'var(--note-bg)' }}
        />
        <Bar dataKey="bytes" isAnimationActive={false} radius={[0, 4, 4, 0]}>
          {bars.map(({ name, at }) => (
            <Cell key={`${name} ${at}`} fill={FILL[at]} />
          ))}
        </Bar>
      </BarChart>
    </ResponsiveContainer>
  );
}
