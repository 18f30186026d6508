/** How the lines of a log begin, learnt from the log itself. */
export interface LogForm {
  /** What stands before the message, in its order. */
  parts: ('time' | 'level' | 'place')[];
  /** One of its lines, as an example. */
  example: string;
  /** The share of lines that have this form, 0 to 1; lines that go on with the one before are not counted. */
  share: number;
}

const TIME =
  /^(?:\p{Lu}\p{Ll}{2}\s+\d{1,2}\s+\d{1,2}:\d{2}(?::\d{2})?)|^(?:\d{4}[-/.]\d\d?[-/.]\d\d?|\d\d?[-/.]\d\d?[-/.]\d{2,4})?[T ,]*\d{1,2}:\d{2}(?::\d{2})?(?:[.,]\d+)?Z?|^\d{4}[-/.]\d\d[-/.]\d\d|^\d+[.,]\d{3,}s?|^\+?\d{1,9}(?:ms)?(?=[\])|:;\s])/u;
const LEVEL =
  /^(?:trace|debug|verbose|info(?:rmation)?|note|notice|warn(?:ing)?|error|err|fatal|critical|severe|[TDIWEF])(?=[\s\]):>|,-]|$)/i;
const PLACE = /^[\p{L}_][\p{L}\p{N}_.:/-]{1,40}(?:\[\d+\])?(?=[\])>]|\s*[:|]\s|\s+-\s)/u;
/** Words that say of a line that something went wrong, or might have. */
export const ERROR_WORDS =
  /(?<!\p{L})(?:errors?|fatal|exception|crash(?:ed|es)?|panic(?:ked)?|assert(?:ion)?|fail(?:ed|ure|s)?|abort(?:ed|ing)?|segfault|fehler|fehlgeschlagen|abgestürzt|error(?:es)?|fall[oó]|erreurs?|échec|échoué)(?!\p{L})/iu;
export const WARNING_WORDS =
  /(?<!\p{L})(?:warn(?:ing)?s?|missing|not found|no such|cannot|can['’]t|could ?n[o'’]t|unable|invalid|corrupt(?:ed)?|damaged|unknown|unresolved|undefined|denied|refused|deprecated|skip(?:ped|ping)|ignor(?:ed|ing)|conflicts?|duplicate|warnung(?:en)?|fehlt|fehlen(?:de[rsn]?)?|nicht gefunden|kann nicht|konnte nicht|ungültig|advertencia|falta[n]?|no se (?:pudo|puede|encontr)\p{L}*|avertissement|introuvable|manquante?s?|impossible)(?!\p{L})/iu;
const BETWEEN = /^[\s[\](){}<>|:;,-]+/;
/** So many lines are looked at. */
const LOOKED_AT = 400;
const MOST_PARTS = 4;
const SEVERITIES = ['fatal', 'fatal', 'critical', 'error', 'warning', 'notice', 'info', 'debug'];

/** What stands before the message of a line, and the message. */
export interface Beginning {
  parts: LogForm['parts'];
  level: string | undefined;
  place: string | undefined;
  rest: string;
}

/** The time, level or place that a line begins with, of those that it has not had yet. */
function nextPart(rest: string, had: LogForm['parts']): { part: LogForm['parts'][number]; text: string } | undefined {
  for (const [part, form] of [
    ['time', TIME],
    ['level', LEVEL],
    ['place', PLACE],
  ] as const) {
    const text = had.includes(part) ? undefined : form.exec(rest)?.[0];
    if (text === undefined) continue;
    // “warning: slow disk” behind another level is what happened, and not where.
    if (part === 'place' && (ERROR_WORDS.test(text) || WARNING_WORDS.test(text))) return undefined;
    return { part, text };
  }
  return undefined;
}

/** Takes a line of a log apart: time, level and place in any order, as far as they stand before the message. */
export function beginningOf(line: string): Beginning {
  const parts: LogForm['parts'] = [];
  const said: { level?: string; place?: string } = {};
  // A number in front is a priority: its last three bits say how grave it is (RFC 5424, 6.2.1).
  const priority = /^<(\d{1,3})>\d?\s?/.exec(line);
  if (priority) {
    parts.push('level');
    said.level = SEVERITIES[Number(priority[1]) % 8];
  }
  let rest = line.slice(priority?.[0].length ?? 0).replace(BETWEEN, '');
  while (parts.length < MOST_PARTS) {
    const found = nextPart(rest, parts);
    if (!found) break;
    parts.push(found.part);
    if (found.part !== 'time') said[found.part] = found.text;
    rest = rest.slice(found.text.length).replace(BETWEEN, '');
  }
  return { parts, level: said.level, place: said.place, rest };
}

/** Of the lines of a log so many begin with a time. */
const TIMED = 0.8;

/** Does a text read like a log, whatever it is called: line for line a time, and what happened then? */
export function readsAsLog(text: string): boolean {
  const lines = text
    .slice(0, 64 * 1024)
    .split(/\r\n|\n|\r/)
    .slice(0, LOOKED_AT)
    .filter((line) => line.trim() !== '' && !/^\s/.test(line));
  const timed = lines.filter((line) => {
    const { parts, rest } = beginningOf(line);
    // A lone number can be anything; with colons in it, or a level behind it, it is a time.
    return parts.includes('time') && rest !== '' && (/\d:\d\d/.test(line.slice(0, 40)) || parts.includes('level'));
  });
  return lines.length >= 2 && timed.length >= lines.length * TIMED;
}

/** The form that most lines of a log have; undefined where they have none in common. */
export function logFormOf(text: string): LogForm | undefined {
  const lines = text
    .slice(0, 256 * 1024)
    .split(/\r\n|\n|\r/)
    .slice(0, LOOKED_AT)
    .filter((line) => line.trim() !== '' && !/^\s/.test(line) && line.length < 2000);
  if (lines.length < 3) return undefined;
  const forms = new Map<string, { parts: LogForm['parts']; lines: string[] }>();
  for (const line of lines) {
    const { parts } = beginningOf(line);
    const known = forms.get(parts.join()) ?? { parts, lines: [] };
    forms.set(parts.join(), known);
    known.lines.push(line);
  }
  const [best] = [...forms.values()]
    .filter(({ parts }) => parts.length > 0)
    .sort((a, b) => b.lines.length - a.lines.length || b.parts.length - a.parts.length);
  const share = best ? best.lines.length / lines.length : 0;
  return best && share >= 0.5
    ? { parts: best.parts, example: (best.lines[0] as string).slice(0, 120), share }
    : undefined;
}
