'use client';

import { Bar, CartesianGrid, ComposedChart, Line, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { countTicks } from '@/ui/shared/ticks';

const LABEL = { fontSize: 11, fill: 'currentColor', style: { textAnchor: 'middle' as const } };

/** From nothing to past the largest, in round numbers. */
function scale(values: readonly number[]): { ticks: number[]; domain: [number, number] } {
  const ticks = countTicks(Math.max(0, ...values));
  return { ticks, domain: [0, ticks.at(-1) ?? 1] };
}

/** Starts one after the other: files loaded as bars, lines of trouble as a line. */
export default function RunsChart({
  starts,
}: {
  starts: readonly { start: number; at: string; loaded: number; lines: number }[];
}) {
  return (
    <ResponsiveContainer width="100%" height={190}>
      <ComposedChart data={starts} margin={{ left: 0, right: 8, top: 6, bottom: 14 }}>
        <CartesianGrid stroke="var(--bs-border-color)" vertical={false} />
        <XAxis
          dataKey="start"
          stroke="currentColor"
          fontSize={12}
          label={{ ...LABEL, value: 'start', position: 'insideBottom', offset: -10 }}
        />
        <YAxis
          yAxisId="loaded"
          {...scale(starts.map((one) => one.loaded))}
          stroke="currentColor"
          fontSize={12}
          interval={0}
          width={56}
          label={{ ...LABEL, value: 'files loaded', angle: -90, position: 'insideLeft' }}
        />
        <YAxis
          yAxisId="lines"
          {...scale(starts.map((one) => one.lines))}
          orientation="right"
          stroke="currentColor"
          fontSize={12}
          interval={0}
          width={48}
          label={{ ...LABEL, value: 'lines of trouble', angle: 90, position: 'insideRight' }}
        />
        <Tooltip
          labelFormatter={(start) => `Start ${Number(start)}, ${starts[Number(start) - 1]?.at ?? ''}`}
          contentStyle={{ background: 'var(--surface)', color: 'inherit', border: '1px solid var(--seam)' }}
        />
        <Bar
          yAxisId="loaded"
          dataKey="loaded"
          name="files loaded"
          fill="var(--bs-primary)"
          isAnimationActive={false}
          maxBarSize={28}
        />
        <Line
          yAxisId="lines"
          dataKey="lines"
          name="lines of trouble"
          stroke="var(--bs-danger)"
          strokeWidth={2}
          strokeDasharray="5 3"
          isAnimationActive={false}
          dot={{ r: 3 }}
        />
      </ComposedChart>
    </ResponsiveContainer>
  );
}
