import { nameKey } from '../paths/paths';
import type { KeyIndex } from './keyIndex';
import { blank, type ReadSoFar } from './readSoFar';
import { AS_IT_COMES, settingsTokens, type Token } from './settingsWords';

/** The words of a sentence, with lines in quotes opened and names that are taken apart put together again. */
export const sentenceTokens = (
  sentence: string,
  { index, packNames }: Pick<ReadSoFar, 'index' | 'packNames'>,
): Token[] =>
  joined(
    settingsTokens(sentence.replace(AS_IT_COMES, blank)).flatMap((token) => opened(token, index)),
    (words) => index.inWords(words) ?? packNames.get(words.map(nameKey).join(' ')),
  );

/** A line in quotes (“skin dusk”, `"allow": false`) is read as what stands in it, where that names a key. */
function opened(token: Token, index: KeyIndex): Token[] {
  // “Width/Height”
  const parts = token.quoted ? [] : token.text.split('/');
  if (parts.length > 1 && parts.every((part) => index.keys(part).length > 0))
    return parts.map((text, i) => ({ ...token, text, key: nameKey(text), fresh: i === 0 && token.fresh }));
  if (!token.quoted || !/[\s=:[\]]/.test(token.text) || token.text.length > 120) return [token];
  const inner = settingsTokens(token.text);
  const isLine = /^[\p{L}_][\w.:-]{0,60}\s*=\s*\S+$/u.test(token.text);
  if (!isLine && !inner.some(({ text, section }) => section || (inner.length > 1 && index.keys(text).length > 0)))
    return [token];
  // The name of a key that is written as a line is none in quotes.
  return inner.map((one, i) => {
    const isName = one.text === '=' || one.section || (isLine && inner[i + 1]?.text === '=');
    return { ...one, quoted: one.quoted || !isName, start: token.start + one.start };
  });
}

/** Words that are a key's name taken apart (“harbour lights” for `harbour_lights`), or one of the pack's, are that. */
function joined(tokens: readonly Token[], nameOf: (words: string[]) => string | undefined): Token[] {
  const found: Token[] = [];
  for (let i = 0; i < tokens.length; i++) {
    const first = tokens[i] as Token;
    let [name, end]: [string | undefined, number] = [undefined, i];
    for (let to = i + 1; to < i + 4 && tokens[to]?.fresh === false && !tokens[to]?.section && !first.quoted; to++) {
      const meant = nameOf(tokens.slice(i, to + 1).map(({ text }) => text));
      if (meant !== undefined) [name, end] = [meant, to];
    }
    found.push(name === undefined ? first : { ...first, text: name, key: nameKey(name) });
    i = end;
  }
  return found;
}
