/** A sentence of a read-me. */
export interface Sentence {
  text: string;
  /** The line it begins on, counted from 1. */
  line: number;
  /** Sentences of one paragraph have one number. */
  paragraph: number;
}

/** More of a read-me is not read. In characters. */
const LONGEST_TEXT = 256 * 1024;
const MOST_SENTENCES = 4000;
/** A longer sentence is cut there: a text without line ends stays bounded. */
const LONGEST_SENTENCE = 600;

/** A line that stands for itself: a heading in brackets, a key with its value, a tag, a lone brace. */
export const isCode = (line: string): boolean =>
  /^\s*(\[[^\]]{1,80}\]|[{}[\]]+[,;]?|<[^>]{1,200}>.*|[\w.:@$+-]{1,60}\s*=(?!=*>)\s*\S.{0,160}|"[^"]{1,80}"\s*:\s*(?:"[^"]*"|-?[\d.]+|true|false|null|\[[^\]]*\]),?)\s*$/.test(
    line,
  );
const ITEM = /^\s*(?:[-*•–>]+|\(?\d{1,3}[.):]|[a-z][.)]|step \d+:?)\s+/i;
const END = /[.!?]["”’)]?(?=\s+\S)|[;](?=\s)/g;

/**
 * Takes a read-me apart into sentences. Lines of one paragraph belong together, points of a list and code stand alone.
 * The text is bounded: what is longer is not read.
 */
export function sentencesOf(text: string): Sentence[] {
  const lines = text
    .slice(0, LONGEST_TEXT)
    .replace(/^\ufeff/, '')
    .split(/\r\n|\n|\r/);
  const found: Sentence[] = [];
  let paragraph = 0;
  let block: { text: string; line: number }[] = [];
  const flush = () => {
    if (block.length > 0) cut(block, paragraph++, found);
    block = [];
  };
  lines.forEach((whole, i) => {
    if (found.length >= MOST_SENTENCES) return;
    if (whole.trim() === '' || isCode(whole)) flush();
    else {
      // A line of signs parts what stands above it from what stands below, and says nothing itself.
      if (/^\s*[=*_#~-]{3,}\s*$/.test(whole)) return flush();
      if (ITEM.test(whole)) flush();
      block.push({
        text: whole
          .replace(ITEM, '')
          .trim()
          .slice(0, 20 * LONGEST_SENTENCE),
        line: i + 1,
      });
    }
  });
  flush();
  return found.slice(0, MOST_SENTENCES);
}

function cut(block: readonly { text: string; line: number }[], paragraph: number, into: Sentence[]): void {
  const starts: number[] = [];
  let whole = '';
  for (const { text } of block) {
    starts.push(whole.length + (whole === '' ? 0 : 1));
    whole += (whole === '' ? '' : ' ') + text;
  }
  const lineAt = (offset: number) =>
    block[Math.max(0, starts.filter((start) => start <= offset).length - 1)]?.line ?? 1;
  const push = (from: number, to: number) => {
    for (let at = from; at < to; at += LONGEST_SENTENCE) {
      const text = whole.slice(at, Math.min(to, at + LONGEST_SENTENCE)).trim();
      if (text !== '' && into.length < MOST_SENTENCES)
        into.push({ text, line: lineAt(at + (/^\s*/.exec(whole.slice(at, at + 8))?.[0].length ?? 0)), paragraph });
    }
  };
  let from = 0;
  for (const end of whole.matchAll(END)) {
    // “e.g. x”, “No. 3” and single letters end nothing.
    if (
      /(?:^|\s)(?:e\.g|i\.e|z\.\s?b|p\.\s?ej|no|nr|etc|\p{L})\.$/iu.test(
        whole.slice(Math.max(0, end.index - 6), end.index + 1),
      )
    )
      continue;
    push(from, end.index + end[0].length);
    from = end.index + end[0].length;
  }
  push(from, whole.length);
}

/** A word of a sentence, without the signs around it. */
export interface Word {
  text: string;
  key: string;
  start: number;
  end: number;
  /** It stood in quotes or brackets. */
  quoted: boolean;
  /** A sign after it parts it from the next word: a comma, a dash. */
  stop: boolean;
}

const WORD =
  /["“„«]([^"”“„»]{1,120})["”“»]|(?<![\p{L}\p{N}])['‘‚]([^'’]{1,80})['’](?![\p{L}\p{N}])|`([^`]{1,120})`|[^\s]+/gu;

/** `mod.dll -> plugins`: an arrow between two blanks is a word. */
const ARROW = /^(?:-{1,4}>|={1,4}>|→)$/;

/** The words of a sentence; what stands in quotes is one word, and so is an arrow. Backslashes become slashes. */
export function wordsOf(sentence: string): Word[] {
  const words: Word[] = [];
  for (const found of sentence.matchAll(WORD)) {
    const quoted = found[1] ?? found[2] ?? found[3];
    if (quoted !== undefined) {
      const after = sentence[found.index + found[0].length] ?? ' ';
      const text = quoted
        .trim()
        .replace(/^[([]+|[,;:!?)]+$/g, '')
        .replaceAll('\\', '/')
        .replace(/\/+$/, '');
      if (text !== '')
        words.push({
          text,
          key: text.toLowerCase(),
          start: found.index,
          end: found.index + found[0].length,
          quoted: true,
          stop: /[,;:)]/.test(after),
        });
      continue;
    }
    if (ARROW.test(found[0])) {
      const [start, end] = [found.index, found.index + found[0].length];
      words.push({ text: '→', key: '→', start, end, quoted: false, stop: false });
      continue;
    }
    const lead = /^[([{<*_“”"'‘’„»«]+/.exec(found[0])?.[0].length ?? 0;
    const bare = found[0].slice(lead).replace(/[\])}>*_“”"'’»«.,;:!?]+$/, '');
    const text = bare.replaceAll('\\', '/').replace(/\/+$/, '');
    if (text === '') {
      const last = words.at(-1);
      if (last && /^[-–—>]+$/.test(found[0])) last.stop = true;
      continue;
    }
    const start = found.index + lead;
    const tail = found[0].slice(lead + bare.length);
    words.push({
      text,
      key: text.toLowerCase().normalize('NFC'),
      start,
      end: start + bare.length,
      quoted: false,
      stop: /[,;:)\]]/.test(tail),
    });
  }
  return words;
}

/**
 * Does a text name something as a word of its own? Blanks, dashes and underscores are alike; the ending of a plural or
 * a genitive does not matter.
 */
export function speaksOf(text: string, name: string): boolean {
  const escaped = name.replace(/[.*+?^${}()|[\]\\]/g, '\\$&').replace(/[ _-]/g, '[ _-]?');
  return new RegExp(`(?<![\\p{L}\\p{N}])${escaped}(?![\\p{L}\\p{N}])`, 'iu').test(text);
}
