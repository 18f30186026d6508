import { megabytes, type Shortage } from '../deploy/room';
import type { TargetPath } from '../paths/paths';
import type { Warning } from '../placement/warnings';
import type { EditFate } from '../settings/afterStart';
import type { RoomAdvice } from '../settings/roomInMemory';
import type { Finding } from './finding';

/** What is known besides files and logs. */
export interface KnownFacts {
  /** Folders of packs that a list in a settings file does not name. */
  unlisted: readonly { file: TargetPath; path: string[]; item: string; pack: string }[];
  /** Deployed edits that stand no more, who wanted them, and how often that has happened. */
  lost: readonly (EditFate & { by: string; times: number })[];
  /** Settings that cost memory, as they will be. */
  advice: readonly (RoomAdvice & { file: TargetPath; path: string[]; now: string | undefined })[];
  /** Packs in use, with what is to be known of their places. */
  packs: readonly { layer: string; name: string; warnings: readonly Warning[] }[];
  /** Keys for which two packs want different values; the last one in `wants` gets its way. */
  fought: readonly { file: TargetPath; path: string[]; wants: readonly { by: string; value: string | undefined }[] }[];
  /** Disks that are too full for what waits in the plan, and the packs that bring most of it. */
  short: readonly (Shortage & { packs: readonly { layer: string; name: string; bytes: number }[] })[];
  /** Deployed files that somebody else changed. */
  drifted: number;
}

/**
 * Findings from what is known besides files and logs.
 *
 * @param others what the checks of the files found; a warning that says the same without a cure is left away
 */
export function knownFindings({ unlisted, lost, advice, packs, fought, short, drifted }: KnownFacts, others: readonly Finding[]): Finding[] {
  const found: Finding[] = [];
  for (const { file, path, item, pack } of unlisted)
    found.push({ id: `not-listed:${item}`, level: 'wrong', about: `${file} › ${path.join(' › ')}`, title: `“${item}” is not in the list`, evidence: `${path.join(' › ')} in ${file} does not name it; “${pack}” brings it.`, cause: 'The game looks into the folders alone that the list names.', fixes: [{ kind: 'list', label: 'Add it to the list', file, path, item }] });
  for (const { file, path, value, now, fate, times, by } of lost)
    found.push({
      id: `lost:${file} ${path.join(' ')}`, level: fate === 'dropped' ? 'wrong' : 'note', about: `${file} › ${path.join(' › ')}`, title: fate === 'dropped' ? `The game dropped ${path.join(' › ')}${times > 1 ? `, ${times} times now` : ''}` : `${path.join(' › ')} was changed since`,
      evidence: `${file}: it should be ${value ?? 'gone'} for ${by === 'you' ? 'you' : `“${by}”`}, and is ${now ?? 'not there'}.`, cause: times > 1 ? 'The game does not keep it: look for another name or place for this key.' : 'Some games throw a new key out at the first start and keep it when it is put in again.', fixes: [{ kind: 'deploy', label: 'Look at the plan' }],
    });
  for (const { layer, name, warnings } of packs) {
    for (const { code, level, says, next, paths } of warnings) {
      // The checks before the start say the same with a cure.
      if (others.some((finding) => finding.layer === layer && (finding.id.startsWith('wrong-id') || finding.id.startsWith('id-taken')) && ['wrong-region', 'unknown-id', 'id-taken'].includes(code))) continue;
      if (level === 'wrong') found.push({ id: `warning:${code}:${layer}`, level: 'wrong', layer, ...(paths[0] === undefined ? {} : { about: paths[0] }), title: `“${name}”: ${says}`, evidence: paths.length === 0 ? `The pack “${name}”.` : paths.join(', '), cause: next, fixes: [{ kind: 'go', label: 'Look at its place', step: 'place' }, { kind: 'take out', label: `Take “${name}” out`, layer }] });
    }
  }
  for (const { file, path, now, advice: wanted, why } of advice)
    if (wanted === 'off' && /^(1|true|on|yes)$/i.test(now ?? '')) found.push({ id: `memory:${file} ${path.join(' ')}`, level: 'wrong', about: `${file} › ${path.join(' › ')}`, title: `${path.at(-1)} is on, and the textures do not fit into memory`, evidence: `${path.join(' › ')} in ${file} is ${now ?? 'on'}.`, cause: why, fixes: [{ kind: 'edit', label: 'Turn it off', file, edit: { path, value: '0' } }] });
  for (const { file, path, wants } of fought) {
    const winner = wants.at(-1);
    const others = wants.filter(({ value }, i) => value !== winner?.value && wants.findIndex((one) => one.value === value) === i);
    found.push({
      id: `fought-over:${file} ${path.join(' ')}`, level: 'note', about: `${file} › ${path.join(' › ')}`, title: `${path.at(-1)} is wanted in ${others.length + 1} ways`,
      evidence: `${file}: ${wants.map(({ by, value }) => `“${by}” wants ${value ?? 'it gone'}`).join(', ')}.`, cause: `“${winner?.by ?? ''}” gets its way, because it lies higher in the stack.`,
      fixes: [winner, ...others].flatMap((one) => (one?.value === undefined ? [] : [{ kind: 'edit' as const, label: `Keep ${one.value}, for “${one.by}”`, file, edit: { path, value: one.value } }])),
    });
  }
  for (const { disk, needed, left, packs: largest } of short)
    found.push({
      id: `no-room:${disk}`, level: 'wrong', title: 'The next deployment does not fit on the disk', evidence: `It needs ${megabytes(needed)} on ${disk}; ${megabytes(left, 'down')} are free.`, cause: 'New files are written beside the old ones, and originals are kept twice, so both need room. Nothing is written before there is enough.',
      fixes: largest.slice(0, 3).map(({ layer, name, bytes }) => ({ kind: 'take out', label: `Take “${name}” out (${megabytes(bytes)})`, layer })),
    });
  if (drifted > 0) found.push({ id: 'drift', level: 'note', title: `${drifted.toLocaleString('en')} deployed ${drifted === 1 ? 'file was' : 'files were'} changed by somebody else`, evidence: `The Deploy page lists ${drifted === 1 ? 'it' : 'them'}.`, cause: 'The game’s updater, another program or your own hand.', fixes: [{ kind: 'deploy', label: drifted === 1 ? 'Look at it' : 'Look at them' }] });
  return found;
}
