'use client';

import { Bar, BarChart, Cell, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { size } from '@/ui/shared/format';
import { byteTicks } from '@/ui/shared/ticks';
import type { MemoryView } from '@/worker/contract';

const LINE = 34;

/** What each pack's textures take once loaded, one bar each, and all of them together. */
export default function MemoryChart({
  bars,
  total,
  machine,
}: {
  bars: MemoryView['packs'];
  total: number;
  machine: number | undefined;
}) {
  const limit = machine !== undefined && machine <= total * 20 ? machine : undefined;
  const ticks = byteTicks(Math.max(total, limit ?? 0, 1));
  return (
    <ResponsiveContainer width="100%" height={(bars.length + 1) * LINE + 48}>
      <BarChart
        layout="vertical"
        data={[
          ...bars.map(({ name, bytes, tag }) => ({ name, bytes, tag })),
          { name: 'All together', bytes: total, tag: undefined },
        ]}
        margin={{ left: 8, right: 24, top: 4, bottom: 18 }}
      >
        <XAxis
          type="number"
          ticks={ticks}
          domain={[0, ticks.at(-1) ?? 1]}
          tickFormatter={(bytes: number) => size(bytes)}
          stroke="currentColor"
          fontSize={12}
          label={{
            value: 'memory once loaded',
            position: 'insideBottom',
            offset: -12,
            fontSize: 11,
            fill: 'currentColor',
          }}
        />
        <YAxis type="category" dataKey="name" width={170} stroke="currentColor" fontSize={12} />
        <Tooltip
          formatter={(bytes) => [size(Number(bytes)), 'once loaded']}
          contentStyle={{ background: 'var(--surface)', color: 'inherit', border: '1px solid var(--seam)' }}
          cursor={{ fill: 'var(--note-bg)' }}
        />
        <Bar dataKey="bytes" isAnimationActive={false} radius={[0, 4, 4, 0]}>
          {bars.map(({ layer, tag }) => (
            <Cell key={layer} fill={`var(--tag-${tag.colour % 8})`} />
          ))}
          <Cell fill="var(--bs-primary)" />
        </Bar>
        {limit !== undefined && (
          <ReferenceLine
            x={limit}
            stroke="var(--bs-danger)"
            strokeDasharray="5 4"
            label={{ value: 'your machine', position: 'insideTopRight', fontSize: 12, fill: 'currentColor' }}
          />
        )}
      </BarChart>
    </ResponsiveContainer>
  );
}
