/** Left to the reader: “optional: …”, “you may want to raise …”, “if you like, …”. */
const AS_YOU_LIKE =
  /(?<!\p{L})(?:optional(?:ly)?|if you (?:also|additionally) (?:want|wish|like|need)|if (?:you (?:like|wish|prefer|want|fancy)(?= ?[,.;:)–—]|$)|desired|wanted)|feel free to|up to you|(?:may|might|could) (?:also )?(?:want|wish|like|prefer|care) to|wenn du (?:magst|willst|möchtest)(?= ?[,.;:)]|$)|opcional(?:mente)?|si (?:quieres|lo deseas|prefieres|tu veux|vous voulez|le souhaitez)(?= ?[,.;:)]|$)|facultatif)(?!\p{L})/iu;

/** “If you have more than one of them, …”: who has or does something else, too. */
const IF_SO =
  /^(?:and |but |then )?if you (?:also |already |ever |later )?(?:have|own|use|run|play|got)(?!\p{L})(?! (?:not|n['’]t|to|done|it|this|installed|copied|unpacked|put|finished)(?!\p{L}))/iu;

/** Why it is so: “…, because ice is slow”. */
const REASON =
  /^\s*(?:(?:that|this|it)(?: is|['’]s) )?(?:because|since|for it|as it|weil|denn|da es|porque|puesto que|ya que|parce que|car|puisque)(?!\p{L})/iu;

/** “I play with tips off, and you should, too.” */
const SO_SHOULD_YOU =
  /(?<!\p{L})(?:you should,? (?:too|as well|also)|so should you|du solltest das auch|tú también|toi aussi)(?!\p{L})/iu;

/** “…, and because it is so large set” echo to 0.8. */
const SETS_IT = /(?<!\p{L})(?:set|put|write|change|make|turn|raise|lower|increase|reduce)(?: the)? ["“„«‘'`]?$/iu;

/** The same, said of all of it. */
const OPEN =
  /(?<!\p{L})(?:(?:a )?matter of taste|(?:do )?as you (?:please|like|wish)|(?:it is|it['’]s|that is|that['’]s) (?:up to you|your choice)|geschmackssache|cuestión de gustos|une question de goût)(?!\p{L})/iu;

/** “before "beeches" or after, as you like”: that is left to the player, and no more. */
const ANY_ORDER =
  /(?<!\p{L})(?:before|after|above|below|behind|vor|nach|hinter|antes|después|avant|après)(?!\p{L})[^,.;]*(?<!\p{L})(?:or|oder|o|ou)(?!\p{L})[^,.;]*,? (?:do )?as you (?:please|like|wish)/giu;

/** “If it stutters you can lower …”: something that helps then. */
const MAY_HELP =
  /^(?:if|when|should|wenn|falls|si|cuando)(?!\p{L}).*(?<!\p{L})(?:can|may|might|could|try|kannst|könnt|puedes|pouvez|peux)(?: also| to)? (?:turn|switch|set|lower|lowering|rais|reduc|increas|enabl|disabl|chang|put|use|try|senk|erhöh|ausschalt|einschalt|bajar|subir|baisser|monter)/iu;

/** Told of what its maker has, or tried: “I play with …”, “tested with …”, “it also works with …”. */
const AS_TRIED =
  /(?<!\p{L})(?:I (?:personally |usually |always |also )?(?:play|run|use|have|had|keep|was|am|switched|turned|changed)|(?:was |been )?tested|works?(?: also| fine| well| too)? with|ich (?:spiele|nutze|habe|benutze)|getestet|yo (?:juego|uso)|probado|je (?:joue|utilise)|testé)(?!\p{L})/iu;

/** What was to be done once: “in 1.0 you had to set …”. */
const ONCE =
  /(?<!\p{L})(?:(?:you|one|players) (?:had to|used to|needed to)|(?:du musstest|man musste)|(?:tenías|había) que|(?:il fallait|vous deviez|tu devais))(?!\p{L})/iu;

/** Told of how to get rid of a pack again. */
const GOING_BACK =
  /(?<!\p{L})(?:un-?install\w*|de-?install\w*|(?:to|when you) (?:remove|delete) (?:it|this|the (?:mod|pack))|to (?:go back|undo|revert)|desinstala\w*|désinstall\w*)(?!\p{L})/iu;

/** “Take robin out of the guests”: what nobody can set. */
const TAKEN_OUT =
  /(?<!\p{L})(?:take|remove|delete|erase|strike)(?!\p{L})[^,;:]*(?<!\p{L})(?:out of|from)(?: the| its| your)? ["“„«‘`]?$/iu;

/** Told not to do something to a value. Other things that are not to be are no business of the key behind them. */
const NOT_TO =
  /(?<!\p{L})(?:(?:do(?:es)? not|do(?:es)?n['’]t|did not|didn['’]t|will not|won['’]t|never|must(?: not|n['’]t)|should(?: not|n['’]t)|no need to|no longer (?:have|need)s? to|avoid|(?:don['’]t|do not) (?:have|need) to)(?: \p{L}+ly)? (?:set|sett|chang|edit|touch|put|us|turn|switch|enabl|disabl|add|writ|rais|lower|increas|mak|replac|modif|alter)|(?:niemals|nunca|jamais)(?!\p{L})|no (?:ponga|pongas|cambie|cambies|debe)(?!\p{L})|ne (?:mettez|changez|passez)(?!\p{L}))/iu;

/** “It looks best at Fog=1.” */
const SEEN_AT = /(?<!\p{L})(?:looks?|is|are|was|be|best|has|have|had|runs?)(?!\p{L})[^,;]* at $/iu;

/** “If something goes wrong I need your log: set …”: for whoever reports a fault. */
const FOR_REPORTS =
  /(?<!\p{L})(?:(?:something|anything|it) (?:goes|went) wrong|bug ?reports?|report(?:ing)? (?:a |any )?(?:bugs?|problems?|errors?|faults?)|(?:need|send|attach|post)(?: me)? (?:the|your|a) log)(?!\p{L})/iu;

const WHERE_IT_IS_SO =
  /^(?:and |but |then )?(?:if|when|whenever|in case|wenn|falls|sobald|si|cuando|quand|lorsque)(?!\p{L})/iu;

/** What is said behind a key that nobody is asked to set. */
const BEHIND = [
  // “Width should not be 1920”
  /^["”’`]?\s*(?:must|should|shall|may|can|does|do|has|have|soll(?:te)?|darf|debe|doit)(?:n['’]t| not| nicht)(?!\p{L})(?! (?:stay|remain|be|bleiben) (?:at )?["“”]?(?:true|false|on|off|yes|no|[01])(?!\p{L}))(?!.*[,:;–—-]\s*(?:but |so |please )?(?:use|set|choose|put|pick|take|make|change|but|rather|instead)(?!\p{L}))/iu,
  // “Scale no longer has to be 32”, “a Scale under 20 breaks it”
  /^["”’`]?\s*(?:no longer (?:has|have|needs?) to(?!\p{L})|(?:under|below|above|over|(?:less|more|lower|higher|smaller|larger) than) -?\d)/iu,
  // “leave Music alone”
  /^["”’`]?\s*(?:alone|untouched|unchanged|as (?:it|they) (?:is|are|was|were)|as is|in ruhe)(?!\p{L})/iu,
  // “HDR=1 is no longer needed”
  /^["”’`]?\s*(?:[=:]\s*\S+\s+)?(?:is|are) (?:not|no longer) (?:needed|necessary|required)(?!\p{L})/iu,
  // “SkipIntro=1, but that has nothing to do with this pack”
  /^[^.;]*[,–—-]\s*(?:but |and |though )?(?:that|this|it|which) (?:has nothing to do with|is (?:not|no longer) (?:needed|necessary|required)|is unrelated)(?!\p{L})/iu,
  // “First may be maple afterwards, but need not”
  /^["”’`]?\s*(?:in (?:(?:your|the|my) )?\S+ )?(?:may|can|might|could) be [^.;]{1,60}(?:but|and) (?:it )?(?:need|must|does|has|do)(?:e?s)? not(?!\p{L})/iu,
  // “Map can be north or south”
  /^["”’`]?\s*(?:in (?:(?:your|the|my) )?\S+ )?(?:can|may|kann|puede|peut) (?:be|sein|ser|être) [^.;]{1,60}(?<!\p{L})(?:or|oder|o|ou)(?!\p{L})/iu,
  // “Scale can be anything from 60 to 110”
  /^["”’`]?\s*(?:in (?:(?:your|the|my) )?\S+ )?(?:can|may|could|kann|darf|puede|peut) (?:be(?! (?:raised|lowered|set|changed|increased|decreased|reduced|turned|put|moved)(?!\p{L}))|take|have|go|range|sein|haben|ser|être|aller)(?: \p{L}+){0,3} (?:from|between|von|zwischen|de|entre) -?\d/iu,
  // “Money=2000 (not needed)”
  /^[^;]{0,80}\((?:(?:this|that|it) is |(?:that|it)['’]s )?(?:not (?:needed|necessary|required)|optional|nicht nötig|no es necesario|pas nécessaire)\)/iu,
  // “Cache=0 only if you paint a lot”
  /^\s*[=:]\s*\S+,?\s+(?:only|just|but only|nur|sólo|solo|seulement) (?:if|when|for|wenn|si|cuando|quand)(?!\p{L})/iu,
  // “a wind of 5 is pleasant”
  /^["”’`]?\s*(?:of|von|de)\s+\S+\s+(?:is|are|would be|ist|wäre|es|est|does|do|would|will|can)(?:n['’]t| not| nicht)?\s+(?:hurt|harm|do no harm|pleasant|nice|pretty|lovely|fine|fun|okay?|schön|angenehm|bonito|agréable|joli)(?!\p{L})/iu,
  // “FPS=60 is fine”: it is told what comes of it.
  /^\s*[=:]\s*\S+\s+(?:is|are|was|were|looks?|works?|runs?|ist|es|est)(?!\p{L})(?! (?:needed|required|necessary|a must|what|wise|best|better|ideal|recommended|advised|nötig|necesario|nécessaire))/iu,
];

/** “With FPS=60 the sky is green.” */
const WITH = /(?<!\p{L})(?:with|mit|con|avec) $/iu;
const TELLS_BUGS =
  /^[^\p{L}]*(?:known (?:bugs?|issues?|problems?)|bekannte fehler|errores conocidos|bugs? connus?)\s*:/iu;
const COMES_OF_IT =
  /^\s*[=:]\s*\S+,? (?:it|they|you|the game|everything|nothing|er|sie|es|man) |(?<!\p{L})(?:is|are|was|were|looks?|gets?|ist|sind|es|está|est)(?!\p{L})(?! (?:all )?(?:good|done|set|ready|fine|fertig|listo)(?!\p{L}))/iu;

/** “With Names=1 you see who lives there.”: what one has of it, and nothing bad. */
const ONE_HAS =
  /^\s*[=:]\s*\S+,? you (?:can )?(?:see|hear|get|have|find|meet|play)(?!\p{L})(?!.*\b(?:crash\w*|bugs?|errors?|problems?|glitch\w*|lag\w*|black|trouble)\b)/iu;

const lastOf = (text: string, cut: RegExp): string => text.split(cut).at(-1) ?? '';

/**
 * Speaks a sentence of a key without asking for it: it says not to (“do not set Fog to 0”), leaves it to the reader,
 * tells of what was tried, or where something is so (“if you had Fog=0 before, …”).
 *
 * @param at where the key stands in the sentence
 * @param length of the key as it is written there
 */
export function isNoRequest(sentence: string, at: number, length: number): boolean {
  const before = sentence.slice(0, at);
  const behind = sentence.slice(at + length);
  // The last thing that is said before it: “do not unpack it, and set …” forbids one thing and asks for another.
  const clause = lastOf(
    before,
    /[,;:()–—]|[.!?]\s|\s-\s|(?<!\p{L})(?:and|but|then|und|aber|dann|y|pero|et|mais)(?!\p{L})/iu,
  );
  return (
    NOT_TO.test(clause) ||
    SEEN_AT.test(clause) ||
    ONCE.test(clause) ||
    (REASON.test(clause) && !SETS_IT.test(clause)) ||
    (WITH.test(clause) && COMES_OF_IT.test(behind) && !ONE_HAS.test(behind)) ||
    (AS_TRIED.test(lastOf(before, /[.!?;:(]\s|\(/)) && !SO_SHOULD_YOU.test(behind)) ||
    AS_YOU_LIKE.test(lastOf(before, /[.!?;]\s/)) ||
    BEHIND.some((said) => said.test(behind)) ||
    isTold(sentence, at)
  );
}

/** Tells a sentence, all in all, of something else than what is to be done? @param at where the key stands in it */
function isTold(sentence: string, at: number): boolean {
  const before = sentence.slice(0, at);
  return (
    OPEN.test(sentence.replace(ANY_ORDER, ' ')) ||
    IF_SO.test(before.trimStart()) ||
    GOING_BACK.test(before) ||
    TAKEN_OUT.test(before) ||
    TELLS_BUGS.test(sentence) ||
    FOR_REPORTS.test(before) ||
    MAY_HELP.test(before.trimStart()) ||
    (WHERE_IT_IS_SO.test(before.trimStart()) && !before.includes(',') && /^[^.;]*,/.test(sentence.slice(at)))
  );
}

/** Said right behind something that need not be. */
export const isOptional = (behind: string): boolean =>
  /^\s*[([]?\s*(?:optional|if you (?:like|want|wish|prefer))(?!\p{L})/iu.test(behind);

/** A heading over the lines that tell how to get rid of a pack. */
export const headsGoingBack = (line: string): boolean =>
  /^[^\p{L}]*(?:how to |to )?(?:un-?install\w*|de-?install\w*|remov(?:e|ing|al)|desinstala\w*|désinstall\w*)(?: (?:it|this|the (?:mod|pack)))?[^\p{L}]*$/iu.test(
    line,
  );

const OF_RELEASES =
  /^[^\p{L}]*(?:(?:version |release )?history|change ?log|what['’]?s new|release notes|known (?:bugs|issues|problems)|bekannte fehler|historial de cambios|historique)[^\p{L}.!?]*$/iu;
const OF_THANKS =
  /^[^\p{L}]*(?:tips|hints|tips (?:and|&) tricks|faq|tipps|consejos|astuces|(?:special )?thanks(?: to)?|credits|acknowledge?ments?|danksagung|créditos|agradecimientos|remerciements|crédits)[^\p{L}.!?]*$/iu;

/**
 * A heading over lines that tell of other things: of earlier releases, of thanks, or tips. “Thanks!” on a line of its
 * own is none: it has to be marked as a heading is, or what comes next would be lost.
 *
 * @param next the line below it
 */
export const headsNothing = (line: string, next = ''): boolean =>
  OF_RELEASES.test(line) ||
  (OF_THANKS.test(line) &&
    (/^\s*#|:\s*$/.test(line) || !/\p{Ll}/u.test(line) || /^\s*(?:={3,}|-{3,}|~{3,})\s*$/.test(next)));

/** A heading over other lines. */
export const isHeading = (line: string): boolean =>
  /^[^\p{L}]*\p{Lu}[\p{L} ’'-]{2,40}[^\p{L}\d=]*$/u.test(line) && line.trim().split(/\s+/).length <= 5;

/** “Not lower than 3” is at least 3, and “not more than 6” at most 6: what is to be set is the same. */
export const NOT_LESS =
  /(?<!\p{L})(?:not|no|nicht|never)(?: be| go| set)?(?: to)? (?:lower|less|smaller|below|under|fewer|kleiner|weniger|niedriger|more|higher|greater|larger|above|over|mehr|höher|größer)(?: than| als)?(?!\p{L})/giu;
