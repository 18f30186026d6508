import { formOf, saidAs } from '../games/pieces';
import { shownBlank } from '../games/shownBlanks';
import { cardDifference } from '../games/sentences';
import { baseName } from '../paths/paths';
import { pathId } from '../settings/edits';
import { countOf, oneOr } from '../words';
import { isSame, type Json } from './changes';
import type { Decisions } from './decisions';
import {
  WRITTEN,
  type EditsLayer,
  type MergeLayer,
  type OwnLayer,
  type PackLayer,
  type PackNote,
  type Stack,
} from './stack';

type Layer = Stack['layers'][number];

const name = (one: { name: string }): string => `“${one.name}”`;
const same = (a: unknown, b: unknown): boolean => isSame(a as Json, b as Json);
const shown = (path: readonly string[]): string => path.join(' › ');

/** What two sets of decisions differ in: sentences for the player, the weightiest first. */
export function whatChanged(before: Decisions, after: Decisions): string[] {
  const [was, is] = [new Map(ids(before)), new Map(ids(after))];
  const came = after.stack.layers.filter(({ id }) => !was.has(id));
  const gone = before.stack.layers.filter(({ id }) => !is.has(id));
  return [
    ...came.map((layer) => cameSays(layer)),
    ...gone.map((layer) => goneSays(layer)),
    ...after.stack.layers.flatMap((layer) => {
      const old = was.get(layer.id);
      return old && old !== layer ? layerSays(old, layer) : [];
    }),
    ...orderSays(before.stack.layers, after.stack.layers),
    ...rulesSay(before.stack, after.stack),
    ...picksSay(before.stack, after.stack),
    ...settingsSay(before.stack, after.stack),
    ...asideSays(before.stack, after.stack),
    ...knowledgeSays(before, after),
    ...notesSay(before, after),
    ...setUpsSay(before, after),
  ];
}

const ids = ({ stack }: Decisions): [string, Layer][] => stack.layers.map((layer) => [layer.id, layer]);

function cameSays(layer: Layer): string {
  switch (layer.kind) {
    case 'pack':
      return `${name(layer)} brought in`;
    case 'merge':
      return `${baseName(layer.target)} merged`;
    case 'own':
      return ownSays([], layer.files);
    case 'edits':
      return editsSay([], layer);
  }
}

function goneSays(layer: Layer): string {
  switch (layer.kind) {
    case 'pack':
      return `${name(layer)} taken out`;
    case 'merge':
      return `Merge of ${baseName(layer.target)} taken away`;
    case 'own':
      return ownSays(layer.files, []);
    case 'edits':
      return editsSay(layer.edits, { ...layer, edits: [] });
  }
}

function layerSays(old: Layer, layer: Layer): string[] {
  const says: string[] = [];
  if (old.on !== layer.on) says.push(`${name(layer)} ${layer.on ? 'put in' : 'left out'}`);
  if (old.kind === 'pack' && layer.kind === 'pack') says.push(...packSays(old, layer));
  if (old.kind === 'edits' && layer.kind === 'edits' && !same(old.edits, layer.edits))
    says.push(editsSay(old.edits, layer));
  if (old.kind === 'own' && layer.kind === 'own' && !same(old.files, layer.files))
    says.push(ownSays(old.files, layer.files));
  if (old.kind === 'merge' && layer.kind === 'merge') says.push(...mergeSays(old, layer));
  return says;
}

function packSays(old: PackLayer, layer: PackLayer): string[] {
  if (old.packId !== layer.packId) return [`${name(layer)} in another release`];
  const [was, is] = [old.placement.decisions, layer.placement.decisions];
  const says: string[] = [];
  if (old.name !== layer.name) says.push(`${name(old)} is called ${name(layer)}`);
  if (!same(was.answers, is.answers)) says.push(`A question of ${name(layer)} answered`);
  if (!same(was.moves, is.moves)) says.push(`${name(layer)} put elsewhere`);
  if (!same([was.out, was.in], [is.out, is.in])) says.push(leftSays(old, layer));
  if (!same(old.ticked ?? [], layer.ticked ?? [])) says.push(`A step of ${name(layer)} ticked`);
  if (says.length === 0 && !same(old.placement, layer.placement)) says.push(`${name(layer)} placed anew`);
  return says;
}

function leftSays(old: PackLayer, layer: PackLayer): string {
  const out = layer.placement.decisions.out.filter((path) => !old.placement.decisions.out.includes(path));
  const [first] = out;
  if (first === undefined) return `Files of ${name(layer)} taken in`;
  return `${out.length === 1 ? baseName(first) : countOf(out.length, 'file')} of ${name(layer)} left out`;
}

function editsSay(before: EditsLayer['edits'], { edits, file }: EditsLayer): string {
  const was = new Map(before.map((edit) => [pathId(edit.path), edit]));
  const is = new Map(edits.map((edit) => [pathId(edit.path), edit]));
  const set = edits.filter((edit) => !same(was.get(pathId(edit.path)), edit));
  const dropped = before.filter((edit) => !is.has(pathId(edit.path)));
  const one = set[0] ?? dropped[0];
  if (!one) return `Edits of ${baseName(file)} put in another order`;
  if (set.length + dropped.length > 1) return `${countOf(set.length + dropped.length, 'edit')} of ${baseName(file)}`;
  if (dropped.length > 0) return `Edit of ${shown(one.path)} in ${baseName(file)} dropped`;
  return one.value === undefined
    ? `${shown(one.path)} taken out of ${baseName(file)}`
    : `${shown(one.path)} set to ${one.value.length > 60 ? `${one.value.slice(0, 60)}…` : one.value} in ${baseName(file)}`;
}

function ownSays(before: OwnLayer['files'], after: OwnLayer['files']): string {
  const changed = after.filter((file) => !before.some((other) => same(other, file)));
  const gone = before.filter(({ target }) => !after.some((other) => other.target === target));
  const one = changed[0] ?? gone[0];
  if (!one || changed.length + gone.length > 1) return `${countOf(changed.length + gone.length, 'file')} of your own`;
  return changed.length > 0
    ? `Your version of ${baseName(one.target)}`
    : `Your version of ${baseName(one.target)} dropped`;
}

function mergeSays(old: MergeLayer, layer: MergeLayer): string[] {
  if (same(old.decisions, layer.decisions))
    return same(old.sources, layer.sources) ? [] : [`Other packs in the merge of ${baseName(layer.target)}`];
  const decided = layer.decisions.filter((one) => !old.decisions.some((other) => same(other, one))).length;
  const taken = old.decisions.filter((one) => !layer.decisions.some(({ at, was }) => at === one.at && was === one.was));
  return [
    decided > 0
      ? `${countOf(decided, 'conflict')} of ${baseName(layer.target)} decided`
      : `${countOf(taken.length, 'decision')} about ${baseName(layer.target)} taken back`,
  ];
}

/** Which layer moved, where it was one alone: without it the others stand as they stood. */
function orderSays(before: readonly Layer[], after: readonly Layer[]): string[] {
  const both = (layers: readonly Layer[], others: readonly Layer[]) => {
    const known = new Set(others.map(({ id }) => id));
    return layers.filter(({ id }) => known.has(id)).map(({ id }) => id);
  };
  const [was, is] = [both(before, after), both(after, before)];
  if (same(was, is)) return [];
  const first = was.findIndex((id, i) => id !== is[i]);
  const moved = [was[first], is[first]].find((id) =>
    same(
      was.filter((other) => other !== id),
      is.filter((other) => other !== id),
    ),
  );
  const layer = after.find(({ id }) => id === moved);
  if (!layer || moved === undefined) return ['The packs in another order'];
  return [`${name(layer)} moved ${is.indexOf(moved) > was.indexOf(moved) ? 'up' : 'down'}`];
}

function rulesSay(before: Stack, after: Stack): string[] {
  const called = (id: string) => name([...after.layers, ...before.layers].find((one) => one.id === id) ?? { name: id });
  const says = ({ lower, upper }: Stack['order'][number]) => `${called(upper)} above ${called(lower)}`;
  return [
    ...after.order
      .filter((rule) => !before.order.some((other) => same(other, rule)))
      .map((one) => `Always ${says(one)}`),
    ...before.order
      .filter((rule) => !after.order.some((other) => same(other, rule)))
      .map((one) => `No longer always ${says(one)}`),
  ];
}

function picksSay(before: Stack, after: Stack): string[] {
  if (before.picks === after.picks) return [];
  const key = ({ scope, at }: Stack['picks'][number]) => `${scope}\n${at}`;
  const [was, is] = [before.picks, after.picks].map((picks) => new Map(picks.map((one) => [key(one), one])));
  const chosen = after.picks.filter((one) => !same(was?.get(key(one)), one));
  const gone = before.picks.filter((one) => !is?.has(key(one)));
  const one = chosen[0] ?? gone[0];
  if (!one) return [];
  if (chosen.length + gone.length > 1) return [`${countOf(chosen.length + gone.length, 'choice')} of what is used`];
  const at = one.scope === 'kind' ? `Files of the kind “${one.at}”` : baseName(one.at);
  const layer = after.layers.find(({ id }) => id === one.layer);
  if (chosen.length === 0) return [`${at}: the order decides again`];
  return [`${at}: ${layer ? `${name(layer)} is used` : 'the game’s own is used'}`];
}

function settingsSay(before: Stack, after: Stack): string[] {
  const says: string[] = [];
  const listed = (one: string, was: readonly unknown[], is: readonly unknown[]) => {
    if (was !== is && !same(was, is)) says.push(is.length >= was.length ? `${one} noted` : `${one} taken away`);
  };
  listed('A settings file of your own', before.ownFiles, after.ownFiles);
  listed('A set of edits', before.sets, after.sets);
  listed('A value that was tried', before.tried, after.tried);
  if (before.launchLine !== after.launchLine) says.push(`Launch line: ${after.launchLine ?? 'as it was'}`);
  for (const { layer } of before.waiting)
    if (!after.waiting.some((one) => one.layer.id === layer.id) && !after.layers.some(({ id }) => id === layer.id))
      says.push(`No longer waiting for ${name(layer)}`);
  if (before.machineMemory !== after.machineMemory) says.push('Memory of this machine');
  return says;
}

function asideSays(before: Stack, after: Stack): string[] {
  const came = after.aside.filter(({ id }) => !before.aside.some((one) => one.id === id));
  const gone = before.aside.filter(({ id }) => !after.aside.some((one) => one.id === id));
  const apart = same(before.apart, after.apart)
    ? []
    : [after.apart ? 'Packs set apart to find what fails' : 'All packs in again, after looking for what fails'];
  return [
    ...came.map(({ says }) => `Set aside: ${says}`),
    ...gone.map(({ says }) => `No longer set aside: ${says}`),
    ...apart,
  ];
}

function knowledgeSays(before: Decisions, after: Decisions): string[] {
  if (before.statements !== after.statements) {
    const was = new Map(before.statements.map((one) => [one.id, one]));
    const told = after.statements.filter((one) => !same(was.get(one.id), one));
    const gone = before.statements.filter(({ id }) => !after.statements.some((one) => one.id === id));
    const [one] = [...told, ...gone];
    if (one && told.length + gone.length === 1)
      return [`${told.length === 0 || one.standing === 'refused' ? 'Not so' : 'So it is'}: ${one.says}`];
    if (one) return [`${countOf(told.length + gone.length, 'statement')} about the game`];
  }
  if (same(lessRoots(before.card), lessRoots(after.card))) return [];
  const { came, went } = cardDifference(before.card, after.card);
  const [one, more] = [came[0] ?? went[0], came.length + went.length];
  const form = one && formOf(one.form);
  if (!form || more > 1) return ['What the app is told of the game'];
  return [
    `${came.length > 0 ? 'Told' : 'No longer told'}: ${saidAs(form, one.values, ({ kind }, value) => shownBlank(kind, value, after.card.roots))}`,
  ];
}

const lessRoots = ({ roots: _, ...card }: Decisions['card']) => card;

function notesSay(before: Decisions, after: Decisions): string[] {
  const was = new Map(before.notes.map((note) => [note.id, note]));
  const changed = (note: PackNote) => WRITTEN.filter((part) => was.get(note.id)?.[part] !== note[part]);
  const written = after.notes.filter((note) => was.has(note.id) && changed(note).length > 0);
  const layers = after.stack.layers.filter((layer) => layer.kind === 'pack');
  const [one] = written;
  if (!one || before.notes === after.notes) return [];
  const layer = layers.find(({ packId }) => packId === one.id);
  if (written.every((note) => changed(note).every((part) => part === 'heading'))) {
    const which = layer && written.length === 1 ? name(layer) : countOf(written.length, 'pack');
    return [one.heading === undefined ? `${which} under no heading` : `${which} put under “${one.heading}”`];
  }
  const of = layer ? name(layer) : oneOr(written.length, 'a pack', 'packs');
  return [changed(one).every((part) => part === 'page') ? `Page of ${of} noted` : `Notes on ${of} written`];
}

function setUpsSay(before: Decisions, after: Decisions): string[] {
  if (before.setUps === after.setUps) return [];
  const was = new Map(before.setUps.map((one) => [one.id, one]));
  return [
    ...after.setUps.flatMap((one) => {
      const old = was.get(one.id);
      if (!old) return [`Set-up ${name(one)} kept`];
      return old.name === one.name ? [] : [`Set-up ${name(old)} is called ${name(one)}`];
    }),
    ...before.setUps
      .filter(({ id }) => !after.setUps.some((one) => one.id === id))
      .map((one) => `Set-up ${name(one)} removed`),
  ];
}
