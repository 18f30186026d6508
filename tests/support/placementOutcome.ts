import { placeFiles, wholeTarget, type Placement } from '@/core';
import { entriesOf } from './placementCases';

/**
 * Everything a placement does, as one map: where files go, what becomes edits, what is written, or the whole archive.
 */
export function outcome(paths: readonly string[], placement: Placement): Record<string, string> {
  const entries = entriesOf(paths);
  const whole = wholeTarget(placement);
  if (whole) return { '': whole };
  const found: Record<string, string> = {};
  for (const { path, target, inside } of placeFiles(entries, placement))
    found[path] = inside === undefined ? target : `${target}!/${inside}`;
  for (const rule of placement.rules)
    if (rule.as === 'edits')
      found[rule.from] = `${found[rule.from] ? `${found[rule.from]} + ` : ''}edits of ${rule.to}`;
  for (const { target, inside } of placement.made)
    found['(written)'] = inside === undefined ? target : `${target}!/${inside}`;
  return found;
}
