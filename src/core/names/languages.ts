import { stemOf } from '../paths/paths';

/**
 * BCP 47: a language of two letters, and perhaps a script or region; or a language's name, in English or by its own
 * people.
 */
const LANGUAGE =
  /^(?:[a-z]{2}(?:[-_](?:[a-z]{2}|[a-z]{4}|\d{3}))?|arabic|basque|bulgarian|catalan|chinese|croatian|czech|danish|dutch|english|estonian|finnish|french|german|greek|hebrew|hungarian|icelandic|indonesian|irish|italian|japanese|korean|latvian|lithuanian|norwegian|persian|polish|portuguese|romanian|russian|serbian|slovak|slovenian|spanish|swedish|thai|turkish|ukrainian|vietnamese|welsh|deutsch|fran[cç]ais|espa[nñ]ol|italiano|portugu[eê]s|nederlands|svenska|dansk|norsk|suomi|polski|[cč]e[sš]tina|sloven[cčsš]ina|hrvatski|magyar|t[uü]rk[cç]e|rom[aâ]n[aă]|русский|українська|ελληνικά)$/i;

const LONGEST = 24;

/** Does the name of a file or folder stand for a language, alone or behind a word that all of them share? */
export function isLanguage(name: string): boolean {
  const stem = stemOf(name);
  if (stem.length > LONGEST) return false;
  return LANGUAGE.test(stem) || LANGUAGE.test(stem.replace(/^\p{L}+[._-]/u, ''));
}
