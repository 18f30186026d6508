'use client';

import { Bar, CartesianGrid, ComposedChart, Line, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';

/** Starts one after the other: files loaded as bars, lines of trouble as a line. */
export default function RunsChart({
  starts,
}: {
  starts: readonly { start: number; at: string; loaded: number; lines: number }[];
}) {
  return (
    <ResponsiveContainer width="100%" height={170}>
      <ComposedChart data={starts} margin={{ left: 0, right: 8, top: 6, bottom: 0 }}>
        <CartesianGrid stroke="var(--bs-border-color)" vertical={false} />
        <XAxis dataKey="start" stroke="currentColor" fontSize={12} />
        <YAxis
          yAxisId="loaded"
          stroke="currentColor"
          fontSize={12}
          allowDecimals={false}
          width={56}
          label={{ value: 'files loaded', angle: -90, position: 'insideLeft', fontSize: 11, fill: 'currentColor' }}
        />
        <YAxis
          yAxisId="lines"
          orientation="right"
          stroke="currentColor"
          fontSize={12}
          allowDecimals={false}
          width={48}
          label={{ value: 'lines of trouble', angle: 90, position: 'insideRight', fontSize: 11, fill: 'currentColor' }}
        />
        <Tooltip
          labelFormatter={(start) => `Start ${Number(start)}, ${starts[Number(start) - 1]?.at ?? ''}`}
          contentStyle={{ background: 'var(--surface)', color: 'inherit', border: '1px solid var(--seam)' }}
        />
        <Bar
          yAxisId="loaded"
          dataKey="loaded"
          name="files loaded"
          fill="var(--strap)"
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
