import type { Plan } from './model';

const quoted = (value: string | number): string => (/[",\r\n]/.test(String(value)) ? `"${String(value).replaceAll('"', '""')}"` : String(value));

/**
 * A plan as a table (RFC 4180): a line for each step, in order, and what it needs to be understood elsewhere. A value that a
 * spreadsheet would take for a formula is written as text.
 *
 * @param nameOf a layer's name
 */
export function planAsCsv(plan: Plan, nameOf: (layer: string) => string): string {
  const safe = (value: string) => (/^[=+\-@\t]/.test(value) ? `'${value}` : value);
  const rows = plan.steps.map(({ action, target, reason, layer, size }) => [action, safe(target), safe(nameOf(layer)), size, safe(reason)]);
  return [['step', 'file', 'pack', 'bytes', 'why'], ...rows].map((row) => `${row.map(quoted).join(',')}\r\n`).join('');
}

/** The same as JSON, with the totals. */
export function planAsJson(plan: Plan, nameOf: (layer: string) => string): string {
  const steps = plan.steps.map(({ action, target, reason, layer, size, before }) => ({ action, target, pack: nameOf(layer), bytes: size, why: reason, ...(before ? { before } : {}) }));
  return `${JSON.stringify({ steps, unchanged: plan.unchanged, drifted: plan.drifted, leftAlone: plan.leftAlone, refused: plan.refused }, null, 2)}\n`;
}
