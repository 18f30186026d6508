import type { LogRule } from '../games/card';
import { extensionOf } from '../paths/paths';
import { ERROR_WORDS, WARNING_WORDS, beginningOf, logFormOf, type LogForm } from '../study/logForm';
import type { LogMessage } from './logMessage';

/**
 * What is cut: lines below a message that are kept with it, characters of a sentence, different messages of trouble and
 * others.
 */
const MOST_BELOW = 20;
const LONGEST_SAYS = 400;
const MOST = { trouble: 20_000, notes: 4000 } as const;

const NONE_OF_IT =
  /(?<!\p{L})(?:no|0|zero|without|keine?|ohne|sin|ningún|sans|aucune?)\s+(?:\p{L}+\s+)?(?:errors?|warnings?|problems?|failures?|exceptions?|conflicts?|fehler|warnungen|errores|fallos|advertencias|erreurs?|avertissements?)|(?:errors?|warnings?|failures?|fehler|errores|erreurs?)\s*[:=]\s*0(?!\d)/giu;

const ERROR_LEVEL = /^(?:err|error|e|f|fatal|critical|severe|panic|fehler|erreur)$/i;
const WARNING_LEVEL = /^(?:w|warn|warning|warnung|advertencia|avertissement)$/i;

/** What goes on with the line before, whatever form a log has: indented, or as programs print where they were. */
const GOES_ON = /^(?:\s+\S|at\s+[\w.$<]|caused by[: ]|\.{3}\s*\d+ more)/i;

/** A line of a trace: where in the program. */
const FRAME = /^(?:at\s|in\s+\S+\s*[(:]|#\d|File "[^"]+", line|\.{3}\s*\d+ more)/i;

/** How grave a line is: by its level, and by its words where they say more. */
function levelOf(level: string | undefined, text: string): LogRule['level'] {
  if (level !== undefined && ERROR_LEVEL.test(level)) return 'error';
  const said = text.replace(NONE_OF_IT, ' ');
  if (level === undefined && ERROR_WORDS.test(said)) return 'error';
  if ((level !== undefined && WARNING_LEVEL.test(level)) || ERROR_WORDS.test(said) || WARNING_WORDS.test(said))
    return 'warning';
  return 'note';
}

const FILE =
  /["“«'‘`(<[]([^"”»'’`)>\]\n]{1,240}\.[a-z]\w{0,5})["”»'’`)>\]]|((?:[a-z]:)?[\p{L}\p{N}_@()+.~/\\-]*[\p{L}\p{N}_@)+~-]\.[a-z]\w{0,5})(?![\p{L}\p{N}/\\])/giu;
const NO_FILE = /:\/\/|^www\.|\.(?:com|org|net)$|^\d+(?:\.\d+)+\w?$/i;

/**
 * The file that a message names: one in quotes or with a folder before one without, and only of an ending that is known
 * where those are.
 */
function fileIn(text: string, endings?: ReadonlySet<string>): string | undefined {
  const found = [...text.matchAll(FILE)]
    .map((one) => (one[1] ?? one[2] ?? '').trim())
    .filter((one) => !NO_FILE.test(one));
  const known = found.filter((one) => endings === undefined || endings.has(extensionOf(one)));
  return (
    known.find((one) => /[\\/]/.test(one)) ??
    known[0] ??
    found.find((one) => /[\\/]/.test(one) && extensionOf(one).length <= 4)
  );
}

interface Line {
  level: string | undefined;
  message: string;
  /** It begins as the lines of this log do. */
  begins: boolean;
}

/** A line of a log whose lines are JSON objects, or pairs `level=… msg="…"`. */
function structured(line: string): Line | undefined {
  if (line.startsWith('{') && line.endsWith('}')) {
    try {
      const fields = new Map(
        Object.entries(JSON.parse(line) as Record<string, unknown>).map(([key, value]) => [key.toLowerCase(), value]),
      );
      const of = (...names: string[]) =>
        names
          .map((name) => fields.get(name))
          .find((value): value is string | number => typeof value === 'string' || typeof value === 'number');
      const message = of('msg', 'message', 'text', 'event');
      if (message === undefined) return undefined;
      const more = [...fields]
        .filter(([key, value]) => !COMMON.has(key) && typeof value === 'string')
        .map(([key, value]) => `${key} ${String(value)}`);
      const level = of('level', 'severity', 'lvl', 'loglevel');
      return {
        level: level === undefined ? undefined : String(level),
        message: [String(message), ...more].join(', '),
        begins: true,
      };
    } catch {
      // A line that is no JSON is read as it stands.
      return undefined;
    }
  }
  if (!/(?:^|\s)(?:msg|message)=/.test(line)) return undefined;
  const pairs = [...line.matchAll(/(\w+)=("(?:[^"\\]|\\.)*"|\S+)/g)].map(
    ([, key = '', value = '']) => [key.toLowerCase(), value.replace(/^"(.*)"$/, '$1')] as const,
  );
  const of = (...names: string[]) => pairs.find(([key]) => names.includes(key))?.[1];
  const more = pairs.filter(([key]) => !COMMON.has(key)).map(([key, value]) => `${key} ${value}`);
  return {
    level: of('level', 'lvl', 'severity'),
    message: [of('msg', 'message') ?? '', ...more].join(', '),
    begins: true,
  };
}
const COMMON: ReadonlySet<string> = new Set([
  'msg',
  'message',
  'text',
  'event',
  'level',
  'severity',
  'lvl',
  'loglevel',
  'time',
  'ts',
  'timestamp',
  'date',
  'at',
  'thread',
  'pid',
  'source',
  'logger',
]);

/**
 * Reads a log of a form that nobody described: the form of its lines is learnt from the log itself, and what goes on
 * with a message stays with it. Messages that differ stay different, each with its own text; only notes that differ in
 * numbers alone are folded. No line of trouble is lost.
 */
export class PlainReading {
  private readonly form: LogForm | undefined;
  private readonly messages = new Map<string, LogMessage>();
  private readonly counts = { trouble: 0, notes: 0 };
  private open: { line: number; raw: string; read: Line; below: string[]; troubled: boolean } | undefined;

  /** @param endings those of the game's files and the packs', in small letters */
  constructor(
    head: string,
    private readonly endings?: ReadonlySet<string>,
  ) {
    this.form = logFormOf(head);
  }

  /** The next line that no rule knows. */
  take(raw: string, line: number): void {
    if (raw.trim() === '') return;
    const read = structured(raw) ?? this.split(raw);
    if (this.open && !read.begins && (this.form !== undefined || GOES_ON.test(raw))) {
      const { below } = this.open;
      if (below.length < MOST_BELOW) {
        below.push(raw);
        return;
      }
      // What is too long for one message is cut, but not where it says that something is wrong.
      if (levelOf(undefined, raw) === 'note') return;
    }
    this.end();
    this.open = { line, raw, read, below: [], troubled: false };
  }

  /** Another reader took a line: what comes below that is its own. */
  end(): void {
    const { open } = this;
    this.open = undefined;
    if (!open) return;
    const { line, raw, read, below } = open;
    const own = levelOf(read.level, read.message);
    // A note below which something is wrong is no note.
    const level = own !== 'note' || below.every((one) => levelOf(undefined, one) === 'note') ? own : 'warning';
    const trouble = level !== 'note';
    const bare = read.message.trim() || raw.trim();
    // Where in the program it happened makes no other message.
    const told = below.map((one) => one.trim()).filter((one) => !FRAME.test(one));
    const more = trouble && told.length > 0 ? ` ${told.join(' ')}` : '';
    const says = `${bare}${more}`.slice(0, LONGEST_SAYS);
    const key = trouble ? `${level}\n${bare}\n${told.join('\n')}` : `note\n${bare.replace(/\d+/g, '#')}`;
    const known = this.messages.get(key);
    if (known) {
      known.count++;
      known.last = line;
      return;
    }
    const kind = trouble ? 'trouble' : 'notes';
    if (++this.counts[kind] > MOST[kind]) return this.overflow(kind, line);
    const file = trouble ? fileIn(`${bare}${more}`, this.endings) : undefined;
    this.messages.set(key, {
      rule: 'plain',
      level,
      says,
      fields: file === undefined ? {} : { file },
      count: 1,
      first: line,
      last: line,
      text: raw,
      trace: below,
      ...(file === undefined ? {} : { about: { kind: 'file', field: 'file' } }),
    });
  }

  private overflow(kind: 'trouble' | 'notes', line: number): void {
    const known = this.messages.get(kind);
    if (known) {
      known.count++;
      known.last = line;
    } else
      this.messages.set(kind, {
        rule: 'plain',
        level: kind === 'trouble' ? 'warning' : 'note',
        says: 'Further different messages: look at the log as it stands.',
        fields: {},
        count: 1,
        first: line,
        last: line,
        text: '',
        trace: [],
      });
  }

  private split(raw: string): Line {
    const { parts, rest, level } = beginningOf(raw);
    const begins =
      !/^\s/.test(raw) &&
      (this.form === undefined ? !GOES_ON.test(raw) : this.form.parts.some((part) => parts.includes(part)));
    // Without a form of its own a line says all that it says.
    return this.form === undefined || !begins
      ? {
          level: parts.length > 0 && level !== undefined ? level : undefined,
          message: this.form === undefined ? (level === undefined ? raw : rest) : raw,
          begins,
        }
      : { level, message: rest, begins };
  }

  result(): LogMessage[] {
    this.end();
    return [...this.messages.values()];
  }
}

/** “Loaded 12 mods”: what a log says of how much it took. */
export interface SaidLoaded {
  count: number;
  what: string;
  line: number;
  text: string;
}

const THINGS =
  '(mods?|packs?|add-?ons?|plug-?ins?|modules?|packages?|extensions?|archives?|overrides?|erweiterungen|pakete?|complementos|paquetes|modules?)';
const LOADED = new RegExp(
  `(?<!\\p{L})(?:loaded|found|enabled|activated|registered|mounted|initiali[sz]ed|geladen|cargad[oa]s|chargés?)\\D{0,12}(\\d{1,6})\\s+(?:\\p{L}+\\s+){0,2}${THINGS}(?!\\p{L})|(\\d{1,6})\\s+(?:\\p{L}+\\s+){0,2}${THINGS}\\s+(?:were |was |have been |wurden )?(?:successfully )?(?:loaded|found|enabled|activated|registered|mounted|initiali[sz]ed|geladen|cargad[oa]s|chargés?)(?!\\p{L})|${THINGS}\\s+(?:loaded|enabled|active)\\s*[:=]\\s*(\\d{1,6})`,
  'iu',
);

/** The last line of a log that says how many packs, mods or the like it took. */
export function saidLoaded(messages: readonly LogMessage[]): SaidLoaded | undefined {
  let found: SaidLoaded | undefined;
  for (const { says, text, last } of messages) {
    const one = LOADED.exec(says);
    if (!one || (found && found.line > last)) continue;
    found = {
      count: Number(one[1] ?? one[3] ?? one[6]),
      what: (one[2] ?? one[4] ?? one[5] ?? '').toLowerCase(),
      line: last,
      text: text.trim().slice(0, 200),
    };
  }
  return found;
}
