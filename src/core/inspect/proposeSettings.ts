import { isOwnLine } from './commandLines';
import { forTheReader } from '../placed/baggage';
import { placeFiles } from '../placed/placement';
import { NOT_LESS } from './noRequest';
import { ownInSettings } from './ownInSettings';
import { MOST, ReadSoFar, blank } from './readSoFar';
import type { SettingProposal, SettingsInput } from './settingProposal';
import { ListReader } from './settingsInLists';
import { LineReader } from './settingsInLines';
import { AsWritten, ELEMENT } from './settingsAsWritten';
import { SentenceReader } from './settingsInSentences';
import { rowsAsSentences } from './settingsTables';
import { heardText, settingsUnits } from './settingsUnits';
import { settingsTokens } from './settingsWords';
import { writtenRows } from './writtenRows';

/** A longer text is read up to here, in characters. */
const LONGEST = 256 * 1024;

/**
 * Finds the settings that a pack's read-me asks for, in the files where they are: by what a sentence names, never by
 * its wording alone. What names a key that is not there, or one that stands in several places, is not guessed.
 */
export function proposeSettings(input: SettingsInput): SettingProposal[] {
  const { readMe } = input;
  return readMe && !isContents(readMe.path, input) ? readSettings(input, readMe.text.slice(0, LONGEST)) : [];
}

/** A text that goes into the game like the rest, and is not called like a read-me, speaks to nobody. */
function isContents(path: string, { entries = [], placement }: SettingsInput): boolean {
  return (
    placement !== undefined &&
    forTheReader(path) === undefined &&
    placeFiles(entries, placement).some((file) => file.path === path)
  );
}

function readSettings(input: SettingsInput, whole: string): SettingProposal[] {
  const known = new ReadSoFar(input, whole);
  const { index } = known;
  const isKey = (cell: string) => index.keys(cell).length > 0;
  const text = rowsAsSentences(writtenRows(heardText(whole), known), isKey).replace(DOTS, (dots, name: string) =>
    isKey(name) ? `${name} = ` : dots,
  );
  // Where it speaks of one settings file alone, that is meant before it is named, too.
  const all = known.filesIn(settingsTokens(text.slice(0, LONGEST)), text);
  if (all.length === 1) known.files = all;
  else if (all.length === 0 && known.isAllItIs) known.files = index.filesWithWordsOf(text);
  const sentences = new SentenceReader(known);
  const lines = new LineReader(known, sentences);
  const written = new AsWritten(known);
  const asWritten = (sentence: string, line: number) => {
    const named = known.filesIn(settingsTokens(sentence), sentence);
    return written.lists(sentence, line, named.length > 0 ? named : known.files);
  };
  for (const unit of settingsUnits(text, (line) => isOwnLine(line, index))) {
    if (known.found.length >= MOST) break;
    if (unit.code) lines.read(unit.code);
    else sentences.read(withoutSigns(asWritten(unit.sentence, unit.line), known), unit.line);
  }
  sentences.end();
  written.nested(text);
  written.items(text);
  ownInSettings(text, input.statements ?? [], known, new ListReader(known));
  return settled(known.found);
}

/** A sentence whose signs are put into words; what Markdown sets in bold is a name. */
const withoutSigns = (sentence: string, { index }: ReadSoFar): string =>
  sentence
    .replace(OLD_AND_NEW, '$1$2$3')
    .replace(/\*\*([^*\n]{1,80})\*\*/g, '“$1”')
    .replace(ELEMENT, (_, name: string, value: string) =>
      index.isElement(name) ? `“${value}”` : `“${name}” = “${value}”`,
    )
    .replace(ARROW, ' = ')
    // “lych.cfg ==> tale ringer”: no equals sign.
    .replace(/={1,4}>/g, '→ ')
    .replace(NOT_LESS, (text) => `at least${blank(text).slice(8)}`);

/** `set fog 1 -> set fog 0`, `Fog=1 -> Fog=0`: what stands behind the arrow is the new one. */
const OLD_AND_NEW =
  /(?<![\p{L}\p{N}_])((?:[\p{L}_][\w.]{0,60}[ \t]+)?[\p{L}_][\w.-]{0,60}["”]?)([ \t]*[=:][ \t]*|[ \t]+)\S{1,80}[ \t]*(?:-{1,4}>|={1,4}>|→)[ \t]*["“]?\1\2(\S)/giu;

/** `speed -> 2`: an arrow to a value is an equals sign. */
const ARROW = /(?<=[\p{L}\p{N}_"”])\s*(?:-{1,4}>|={1,4}>|→)\s*(?=["“]|-?\d|(?:true|false|on|off|yes|no)(?!\p{L}))/giu;

/** “fog ....... 0” */
const DOTS = /([\p{L}_][\p{L}\p{N}_.-]{0,60}?)[ \t]*\.{3,}[ \t]*(?=["“]?-?[\p{L}\p{N}])/gu;

/** Said twice counts once: what differs from what is there, the last time. Sections without keys say nothing. */
function settled(found: readonly SettingProposal[]): SettingProposal[] {
  const byPlace = new Map<string, SettingProposal>();
  for (const one of found) {
    if (one.kind === 'numbered section' && one.keys.length === 0) continue;
    const id = placeOf(one);
    const before = byPlace.get(id);
    if (before?.kind === 'key' && one.kind === 'key' && one.value === one.now && before.value !== before.now) continue;
    byPlace.set(id, one);
  }
  return [...byPlace.values()].slice(0, MOST);
}

/** Where a proposal belongs: of two for one place the later one counts. */
function placeOf(one: SettingProposal): string {
  if (one.kind === 'key') return `${one.file}\n${one.path.join('\n')}`;
  return one.kind === 'launch option' ? one.option : `${one.file}\n${one.section}\n${one.line}`;
}
