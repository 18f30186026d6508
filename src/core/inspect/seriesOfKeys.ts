import type { ReadSoFar } from './readSoFar';
import type { Token } from './settingsWords';

/** “It is to be Addon3”, where a file has `Addon1` and `Addon2`: what the pack brings is the next one. */
export function nextOfSeries(tokens: readonly Token[], line: number, known: ReadSoFar): void {
  if (known.ownName() === undefined) return;
  for (const { text, section } of tokens) {
    const [, stem = '', number = ''] = /^([\p{L}_][\p{L}_-]*)(\d{1,3})$/u.exec(text) ?? [];
    const before = section || stem === '' ? [] : known.index.keys(`${stem}${Number(number) - 1}`);
    const [place, other] = before;
    if (!place || other || known.index.keys(text).length > 0) continue;
    const at = place.path.length === 2 ? place.path[0] : undefined;
    known.pushNew(place.file, { section: at, name: text, value: known.ownName(place.value) ?? '', line });
  }
}
