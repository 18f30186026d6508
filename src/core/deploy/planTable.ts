import type { Plan, PlanStep } from './model';

/** One thing that is told of each step of a plan. */
interface PlanColumn {
  /** Its title in a table, and its name as JSON. */
  title: string;
  name: string;
  of(step: PlanStep, nameOf: (layer: string) => string): string | number;
}

/** What a plan tells of each step, wherever it is written down. */
export const PLAN_COLUMNS: PlanColumn[] = [
  { title: 'step', name: 'action', of: ({ action }) => action },
  { title: 'file', name: 'target', of: ({ target }) => target },
  { title: 'pack', name: 'pack', of: ({ layer }, nameOf) => nameOf(layer) },
  { title: 'bytes', name: 'bytes', of: ({ size }) => size },
  { title: 'why', name: 'why', of: ({ reason }) => reason },
];

const quoted = (value: string | number): string =>
  /[",\r\n]/.test(String(value)) ? `"${String(value).replaceAll('"', '""')}"` : String(value);

/** A value that a spreadsheet would take for a formula is written as text. */
const safe = (value: string | number): string | number =>
  typeof value === 'string' && /^[=+\-@\t]/.test(value) ? `'${value}` : value;

/**
 * A plan as a table (RFC 4180): a line for each step, in order, and what it needs to be understood elsewhere.
 *
 * @param nameOf a layer's name
 */
export function planAsCsv(plan: Plan, nameOf: (layer: string) => string): string {
  const rows = plan.steps.map((step) => PLAN_COLUMNS.map(({ of }) => safe(of(step, nameOf))));
  return [PLAN_COLUMNS.map(({ title }) => title), ...rows].map((row) => `${row.map(quoted).join(',')}\r\n`).join('');
}

/** The same as JSON, with the totals. */
export function planAsJson(plan: Plan, nameOf: (layer: string) => string): string {
  const { unchanged, drifted, leftAlone, refused } = plan;
  const steps = plan.steps.map((step) => ({
    ...Object.fromEntries(PLAN_COLUMNS.map(({ name, of }) => [name, of(step, nameOf)])),
    ...(step.before ? { before: step.before } : {}),
  }));
  return `${JSON.stringify({ steps, unchanged, drifted, leftAlone, refused }, null, 2)}\n`;
}
