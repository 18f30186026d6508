import { nameKey } from '../paths/paths';

/** A word of a sentence about settings. */
export interface Token {
  text: string;
  key: string;
  /** It stood in quotes. */
  quoted: boolean;
  /** It stood in brackets: a section. */
  section: boolean;
  start: number;
  /** A comma, a full stop or the like stands before it. */
  fresh: boolean;
  /** A colon stands between it and the word before. */
  colon: boolean;
  /** A bracket opens before it. */
  opens: boolean;
}

const TOKEN =
  /["“”„«]([^"“”„»]{0,200})["”“»]|[‘‚]([^’]{1,80})’|(?<=\s|^|\()'([^']{1,80})'(?=[\s.,;:)]|$)|`([^`]{1,200})`|\[([^\]]{1,80})\]|(?<!=)=(?![=>])|<[^>]{1,200}>|(?:[,;|]?(?:\.{0,2}[\\/])?[\p{L}\p{N}_@$%+][\p{L}\p{N}_@.$%+\\/#*-]*|--?[\p{L}][\p{L}\p{N}-]*|-?\.?\d[\d.,]*|[,;:|]\s*[\p{L}][\p{L}\p{N}_\\/.-]*[\\/])/gu;

/** Takes a sentence apart for its settings. */
export function settingsTokens(sentence: string): Token[] {
  const found: Token[] = [];
  let end = 0;
  for (const one of sentence.matchAll(TOKEN)) {
    const [all, ...groups] = one;
    // In code the quotes are around what is meant: `"salt"`.
    const quoted = groups
      .slice(0, 4)
      .find((group) => group !== undefined)
      ?.replace(/^(["'])([^"']+)\1$/, '$2');
    const section = groups[4];
    const between = sentence.slice(end, one.index);
    // `mods:` is the key as its file shows it.
    const said = quoted?.trim().replace(/(?<=\p{L}):$/u, '') ?? section ?? bareWord(all, between);
    const text = /^<\/?([\p{L}_][\w.-]*)\/?>$/u.exec(said)?.[1] ?? said;
    if (text === '' && quoted === undefined) continue;
    const before = sentence.slice(found.at(-1)?.start ?? end, end);
    found.push({
      text,
      key: text.toLowerCase().normalize('NFC'),
      quoted: quoted !== undefined,
      section: section !== undefined,
      start: one.index,
      fresh: /[,;.:()–—]/.test(between),
      opens: /\(\s*$/.test(between),
      colon: /^[)\]]?\s*:\s*$/.test(between) || (between.trim() === '' && /^[\p{L}\p{N}_]+:$/u.test(before)),
    });
    end = one.index + all.length;
  }
  return found;
}

/** A word without the signs behind it; one before it stays where it belongs to an item of a list. */
function bareWord(written: string, between: string): string {
  if (written === '=') return written;
  const text = written.replace(/[.,;:|]+$/, '');
  return /^[,;|]/.test(text) && between !== '' && !/\s$/.test(between) ? text.slice(1) : text;
}

/** Does one of some names stand in quotes? */
export const isOneQuoted = (tokens: readonly Pick<Token, 'key' | 'quoted'>[], names: readonly string[]): boolean =>
  names.some((name) => tokens.some(({ quoted, key }) => quoted && key === nameKey(name)));

/** Words of sentences that ask for something, or say what comes of something. */
export const ASKS =
  /(?<!\p{L})(?:set|put|chang(?:e|ed|es)|make|made|machen|turn(?:ed|s)?|switch(?:ed)?|lower(?:ed)?|rais(?:e|ed)|reduc(?:e|ed)|increas(?:e|ed)|decreas(?:e|ed)|edit(?:ed)?|writ(?:es?|ten|ing)|enter(?:ed)?|type|try|give|gets?|use|choose|pick|let|must|should|shall|ought|needs?|wants?|has to|have to|to be|as long as|(?:only|just) (?:\p{L}+ ){0,3}?(?:if|when|with)|nur (?:wenn|mit)|s[oó]lo (?:si|con)|seulement (?:si|avec)|until|unless|without|no longer|instead|rather than|becomes?|devien(?:t|nent)|comes? (?:to|down|up)|goes? (?:to|down|up|on|off)|bump(?:ed)?|doubled?|halved?|add(?:ed)?|append|replac(?:e|ed)|remov(?:e|ed)|delet(?:e|ed)|enabl(?:e|ed)|disabl(?:e|ed)|activat(?:e|ed)|allow(?:ed)?|permit(?:ted)?|recommend(?:ed)?|best|look for|find|setz\p{L}*|gesetzt|stell\p{L}*|gestellt|änder\p{L}*|geändert|schreib\p{L}*|trag\p{L}*|eintrag\p{L}*|muss|müssen|darf|dürfen|soll\p{L}*|wird|werden|statt|anstatt|erhöh\p{L}*|senk\p{L}*|aktivier\p{L}*|deaktivier\p{L}*|ersetz\p{L}*|braucht|solange|ohne|pon\p{L}*|cambi\p{L}*|edit\p{L}*|escrib\p{L}*|debe\p{L}*|tiene que|hay que|pasa|sube|baja|valga|deja de|activ\p{L}*|desactiv\p{L}*|sin|en lugar|mett\p{L}*|mets|chang\p{L}*|écri\p{L}*|modifi\p{L}*|doit|doivent|passe|vaut|remplac\p{L}*|activ\p{L}*|désactiv\p{L}*|sans|au lieu)(?!\p{L})/iu;
/** How something is. */
export const IS = /^(?:is|are|ist|sind|es|está|son|est|sont)$/;
/** Other verbs that tell it, and are no values themselves. */
export const STANDS = /^(?:stands?|says?|goes|comes|steht|stehen|gilt|kommt|heißt|va)$/;
/** Words before a value that goes away. */
export const OLD =
  /^(?:from|not|instead|than|currently|now|was|were|old|rather|original(?:ly)?|nicht|statt|anstatt|anstelle|von|vom|bisher|de|del|desde|du|depuis|lieu|lugar|place|vez|find|replaces?|swap|exchange|look|ersetz(?:e|en|t)|tausch(?:e|en|t)|remplac(?:e|er|ez)|échang(?:e|er|ez)|reempla(?:za|zar|ce)|sustitu(?:ye|ya|ir))$/;
/** What a game comes with: “they ship disabled”, “off by default”. */
export const AS_IT_COMES =
  /(?<!\p{L})(?:(?:ships?|shipped|comes?|delivered|starts? out)(?: with (?:it|this|that))? (?:switched |turned )?(?:off|on|disabled|enabled|deactivated)|(?:switched |turned )?(?:off|on|disabled|enabled|deactivated) by default|(?:by default|normally|usually|at first)(?: (?:it|this|that|they))?(?: (?:is|are))? (?:switched |turned )?(?:off|on|disabled|enabled|deactivated)|standardmäßig (?:aus|an|deaktiviert|aktiviert)|de forma predeterminada|par défaut)(?!\p{L})/giu;
/** Words before the new one. */
export const NEW =
  /^(?:to|be|is|are|becomes?|reads?|says?|contain|as|with|value|=|equals?|auf|zu|auf:|durch|wird|devient|deviennent|sein|être|ist|lautet|a|al|ser|será|por|valga|sea|valor|à|sur|par|en|vaut|muss|müssen|soll|sollte|debe|doit|write|put|enter|type|try|use|make|give|word|wort|palabra|mot|künftig|fortan|désormais|henceforth|picks?|gets?|receives?|bekommt|erhält|recibe|reçoit|choose|schreibe|eintragen|pon|escribe|mets|mettre)$/;
/** Small words that are a value where one of them is the value now: “let reeds be many”. */
export const HOW_MUCH = /^(?:many|much|few|little|more|less|none|all|some|empty|blank)$/i;

/** Words that tell to write what comes next. */
export const WRITE =
  /^(?:writes?|puts?|enters?|types?|try|use|choose|pick|schreibe|trage|pon|escribe|mets|mettez|écris|écrivez|value|=)$/;
/** Small words that are never values. */
export const NEVER = new Set(
  (
    'decir leerse rezar lauten heißen valoir valer ' +
    'now currently already still just only jetzt bisher ahora ya maintenant steht stehen gilt heißt kommt rid them they him us among amongst between behind beside dann jetzt nun empty blank leer vacío vide meant supposed intended expected many much few little more less ' +
    'let lets go goes become becomes say says read reads stand stands point points stay stays remain contain contains match ' +
    'the a an it its this that your you in on at of for and or if then there so by be is are was will has have had must should can to into under with not no from as which who what when where line lines file value values key option setting section entry change changed set edit edited added add look find open save game folder mod pack also well too same one both each every all any number text word here found seen placed put taken listed left kept done made given written named called entered ' +
    'bei für nach chez pour para por ja nein oui non der die das den dem ein eine und oder in im auf zu von mit ist sind wird werden muss soll datei zeile wert unter ändern geändert el la los las un una en con y o que es se de del al archivo línea valor le les des du et ou dans sur est fichier ligne valeur'
  ).split(' '),
);

/**
 * Codes of languages look like small words. One of two letters is a value where two letters stand now and nothing
 * more is said of it.
 */
export const isShortCode = (now: string, word: string, next: { key: string; fresh: boolean } | undefined): boolean =>
  /^\p{Ll}{2}$/u.test(now) &&
  /^\p{Ll}{2}$/u.test(word) &&
  !/^(?:be|is|as|to)$/.test(word) &&
  (next === undefined ||
    next.fresh ||
    /^(?:in|en|dans|im|and|y|und|et|under|inside|afterwards|then|now|stellen|setzen|ändern|umstellen)$/.test(next.key));

const PAIRS: [string, string][] = [
  ['0', '1'],
  ['false', 'true'],
  ['no', 'yes'],
  ['off', 'on'],
  ['disabled', 'enabled'],
  ['nein', 'ja'],
  ['non', 'oui'],
];

/** “to name the folder”: a verb, no value. */
export const isVerb = (before: string, after: string): boolean =>
  before === 'to' && /^(?:the|a|an|your|its|it|that|all|every|each|another|from|into)$/.test(after);

/** A value without the quotes that a file puts around it. */
export const unquoted = (value: string): string => value.replace(/^"(.*)"$/, '$1');

/** Is it one of two values that switch something? */
export const isSwitch = (value: string): boolean => PAIRS.some((pair) => pair.includes(value.toLowerCase()));
export const isNumber = (value: string): boolean => /^-?(?:\d+(?:[.,]\d+)?|\.\d+)$/.test(value);

/** The value that turns a switch on or off, in the words that the file uses. */
export function switched(now: string, on: boolean): string | undefined {
  const pair = PAIRS.find((one) => one.includes(now.toLowerCase()));
  const value = pair?.[on ? 1 : 0];
  return value === undefined
    ? undefined
    : /^[A-Z]/.test(now)
      ? (value[0] as string).toUpperCase() + value.slice(1)
      : value;
}

/** A switch's value in the words that the file uses: `off` is `false` where it says `true`. */
export const inWordsOf = (now: string, value: string): string =>
  /^(?:0|1)$/.test(value) ? value : (switched(now, /^(?:true|yes|on|enabled|ja|oui)$/i.test(value)) ?? value);

/** What stands between the two halves of a verb: “turn the music off”, „schalte die Musik aus“. */
const APART = '(?: (?:[^.,;:!?\\n]|\\.(?=\\S)){1,40}?)?';
export const TURN_ON = new RegExp(
  `\\b(?:(?:turn|switch)(?:ed|e?s)?${APART} on|enabled?|activated?|allow(?:ed)?|permit(?:ted)?|unlock(?:ed)?|schalt\\w*${APART} ein|ein(?:zu)?schalten|eingeschaltet|aktivier\\w*|activ(?:[ae][rn]?|d[ao]|ad[ao])|habilit[ae]\\w*|activ(?:er|ez|ée?s?))(?![\\p{L}\\p{N}])`,
  'iu',
);
export const TURN_OFF = new RegExp(
  `\\b(?:(?:turn|switch)(?:ed|e?s)?${APART} off|disabled?|deactivated?|schalt\\w*${APART} aus|aus(?:zu)?schalten|ausgeschaltet|deaktivier\\w*|desactiv[ae]\\w*|deshabilit[ae]\\w*|désactiv[\\p{L}]*)(?![\\p{L}\\p{N}])`,
  'iu',
);
export const EACH = /\b(?:each|every|all|both|jede[rnms]?|alle[nr]?|beide[nr]?|cada|todos|ambos|chaque|tous)\b/iu;
export const ADDING =
  /\b(?:add(?:ed|s)?|append(?:ed)?|also|as well|too|list(?:ed|s)?|name[sd]?|include[sd]?|contains?|(?:at|to) (?:the|its) end|as (?:the |an? )?(?:second|third|fourth|fifth|next|further|extra|last) (?:entry|item|line|name|one)|als (?:zweite|dritte|vierte|fünfte|nächste|weitere|letzte)[rns]? (?:eintrag|zeile|punkt|wert|name)|como (?:segund|tercer|cuart|quint|siguiente|últim)\w* (?:elemento|entrada|línea|nombre)|comme (?:deuxième|troisième|quatrième|dernier|dernière) (?:élément|entrée|ligne|nom)|comes? last|stands? last|as the last|there (?:has to|must|should) be|(?:below|under) the last|missing|lacks?|fehl(?:t|en)|falta|manque|behind|after|extend(?:ed)?|hinzu\w*|dazu|anhäng\w*|anfüg\w*|einfüg\w*|ergänz\w*|ans ende|ebenfalls|auch|añad\w*|agreg\w*|también|al final|ajout\w*|aussi|à la fin)\b/iu;
export const STARTING =
  /\b(?:launch\w*|start(?:s|ed|ing)?|start[- ]?(?:options?|parameters?|line)|options?|parameters?|arguments?|command[- ]?line|shortcut|switch|run|call(?:ed)? with|startparameter|startoptionen|aufruf\w*|gestartet|starten|verknüpfung|befehlszeile|lanza\w*|inici\w*|arran\w*|parámetros?|acceso directo|lanc\w*|démarr\w*|raccourci|paramètres?)\b/iu;

/** Of a line that tells old and new with an arrow between them, the new one: `Fog=0 -> Fog=1`, `Fog=0 -> 1`. */
export function afterArrow(line: string): string {
  const [, name = '', old, fresh] =
    /^(\s*[^=\s][^=]{0,60}=)\s*(\S+)\s+(?:-{1,4}>|={1,4}>|→|>>)\s+(\S.*)$/.exec(line) ?? [];
  if (old === undefined || fresh === undefined) return line;
  return fresh.includes('=') ? fresh : `${name}${fresh}`;
}

/** Speaks of the list before. */
export const IN_IT =
  /\b(?:in|into|to|on) (?:it|this|that|there|the list)\b|\b(?:last|first) there\b|\b(?:follows|third|fourth|fifth|next|one more|dritte[rs]?|tercer[ao]?|troisième)\b|\b(?:darin|hinein|dort)\b|\b(?:en ella|allí)\b/iu;
