import { nameKey } from '../paths/paths';
import { keyAt } from './byContrast';
import type { KeyIndex } from './keyIndex';
import { isNumber, isSwitch, type Token } from './settingsWords';
import { valueOfIt } from './valuesNear';

/** Sets “it” to something. */
const ABOUT_IT =
  /\b(?:make|set|change|turn|switch|put|edit|let|enable|disable|activate|deactivate|raise|increase|lower|reduce|bump)\s+(?:it|this|that)\b|\b(?:it|this|that) (?:must|should|has to|needs to|wants to|ought to) (?:be|say|read|become|show)\b|(?<!\p{L})(?:write|put|use|type|enter|schreibe\p{L}*|setze\p{L}*|escrib\p{L}*|pon|écri\p{L}*|mett\p{L}*)(?!\p{L})[^.;]*(?<!\p{L})(?:instead|there|stattdessen|dafür|en su lugar|à la place)(?!\p{L})|\b(?:setze|ändere|stelle) (?:ihn|es|sie|diesen wert)\b|\bput (?:an? |the )?\S+ (?:behind|after|for) (?:it|this|that)\b|(?<!\p{L})(?:recommend|suggest|advise|prefer|empfehle|recomiendo|recommande)(?:ed|s|n)? (?:is |value |to use |using |a |ist |ein(?:en)? |un )*["“]?-?[\d.]+["”]?(?=\s*(?:[.!,;)]|$| (?:for|if|as|or|für|para|pour)(?!\p{L})))|(?<!\p{L})(?:writes?|enters?|types?|schreib\p{L}*|trägt|escrib\p{L}*|écri\p{L}*)\s+["“„«]?(?:true|false|yes|no|on|off|-?[\d.]+)["”“»]?(?: ein)?(?=\s*(?:[.!;]|$))|(?<!\p{L}|(?:I|we|you|ich|wir|yo|je) )(?:try|use|take|versuche|nimm|prueba|usa|essaye[rz]?)\s+["“„«]?-?[\d.]+["”“»]?(?=\s*(?:[.!;]|$))|(?<!\p{L})(?:make|set|change|turn|raise|increase|lower|reduce|bump|put|ändere|erhöhe|setze|cambia|sube|baja|changez|augmentez)\s+(?:the|that|this|den|die|diese[ns]?|el|la|ese|le|ce|cette) (?:number|value|figure|wert|zahl|valor|número|valeur|nombre)(?!\p{L})|\b(?:daraus wird|that becomes|make that|so should you)\b|(?<!\p{L})I(?: would|['’]d)(?: rather)? (?:say|go (?:for|with)|take|choose|pick|make it) ["“]?-?\d[\d.]*["”]?(?=\s*(?:[.,;!)]|$))|\b(?:(?:I|we) (?:have|keep|run|play with) (?:it|this|mine) at|(?:I|we) (?:like|prefer|chose|took)|(?:more|fewer|less|higher|lower),? (?:say|perhaps|maybe)) ["“]?-?\d[\d.]*["”]?(?=\s*(?:[.,!;)]|$))|\b(?:cámbialo|ponlo)\b|\b(?:mettez|changez)-le\b/iu;

/** “40 is about right.”, „"slate" ist schöner“: what is thought of a value. */
const JUDGED =
  /(?:^|[;,]\s+)(?:I think |I find |ich finde |creo que |je trouve )?(?:["“„«][^"“”„«»]{1,40}["”“»]|-?\d[\d.]*) (?:is|are|(?:w|c)ould be|should be|works|feels|looks|seems|does|ist|wäre|sind|es|sería|va|está|est|serait) (?:\p{L}+ ){0,2}?(?:right|enough|better|best|fine|good|well|nicer?|plenty|perfect|ideal|lovely|great|one (?:to|you|I)|what you (?:want|need)|genug|richtig|besser|gut|schön\p{L}*|mejor|bien|suficiente|perfecto|mieux|parfait|assez|bon)(?!\p{L})/iu;
const REFUSED = /(?<!\p{L})(?:not|never|too|hardly|n[’']t|nicht|kein\p{L}*|zu|no|nunca|demasiado|pas|trop)(?!\p{L})/iu;

/** “Pon 4 para …”, “try 12 for …”: a number, and what it is good for. */
const GOOD_FOR =
  /^(?:then |so |better |dann |mejor )?(?:write|put|use|try|take|make|enter|type|schreib\p{L}*|nimm|nehmt|versuch\p{L}*|pon|ponga|usa|prueba|escribe|mets|mettez|essaye[rz]?|prenez|écri\p{L}*) ["“„«]?-?\d[\d.]*["”“»]? (?:for|to|and|if|für|um|damit|wenn|para|si|y|pour|et)(?!\p{L}| -?\d)/iu;

/** A sentence that may speak of the key before. */
interface Said {
  tokens: readonly Token[];
  sentence: string;
}

/**
 * What a sentence wants “it” to be, the key that the one before spoke of.
 *
 * @param now what that holds
 * @param isAsked the sentence before asked for a value of it: then only what plainly speaks of it asks for another
 */
export function toldOfIt(said: Said, now: string, isAsked: boolean, index: KeyIndex): string | undefined {
  const told = isAsked ? undefined : reckoned(said.sentence, now);
  if (told !== undefined) return told;
  return ABOUT_IT.test(said.sentence) || (!isAsked && isAboutIt(said, now)) ? valueOfIt(said, now, index) : undefined;
}

/** Does a sentence say what “it” is to be, without a word for it? @param now what it holds */
function isAboutIt({ sentence, tokens }: Said, now: string): boolean {
  const isGood = (JUDGED.test(sentence) && !REFUSED.test(sentence)) || (GOOD_FOR.test(sentence) && isNumber(now));
  return isGood || namesOld(tokens, now);
}

/** “Double it.”, “this pack wants 7”: what is to come of the number that a key holds. */
function reckoned(sentence: string, now: string): string | undefined {
  const told = isNumber(now) ? OF_THIS.exec(sentence)?.[1] : undefined;
  if (told !== undefined) return told;
  const factor = TIMES.find(([, said]) => said.test(sentence))?.[0];
  const value = Number(now) * (factor ?? Number.NaN);
  return /^-?\d+(?:\.\d+)?$/.test(now) && Number.isFinite(value) ? String(Number(value.toFixed(6))) : undefined;
}
/** “Values up to 9 are possible, this mod wants 7.”, “this is the peaceful version, so 0.” */
const OF_THIS =
  /(?:(?<!\p{L})(?:this|the|diese\p{L}?|der|este|ce) (?:mod|pack|version|versión|one|paket)(?: here)? (?:wants|uses|asks for|will|nimmt|quiere|usa|veut|demande)|, (?:so|hence|therefore|thus|also|darum|así que|donc)) ["“]?(-?\d+(?:\.\d+)?)["”]?\s*[.!]?$/iu;

const TIMES: readonly (readonly [number, RegExp])[] = [
  [
    2,
    /^(?:(?:just|please|simply|so|then) )?(?:double (?:it|this|that|the (?:number|value))|verdopple (?:ihn|es|sie|den wert)|duplícal[oa]|doublez-l[ea])(?!\p{L})/iu,
  ],
  [
    0.5,
    /^(?:(?:just|please|simply|so|then) )?(?:halve (?:it|this|that|the (?:number|value))|halbiere (?:ihn|es|sie|den wert))(?!\p{L})/iu,
  ],
];

/** Does it begin with that: “make it "storm" and start any map”? */
export const beginsWithIt = (sentence: string): boolean => ABOUT_IT.exec(sentence)?.index === 0;

/** “Statt yes gehört dort no hin.”: the value now, as what goes away. */
const namesOld = (tokens: readonly Token[], now: string): boolean =>
  (isNumber(now) || isSwitch(now)) &&
  tokens.some(
    ({ key }, at) =>
      key === nameKey(now) &&
      /^(?:statt|anstatt|than|instead|lugar|vez|lieu)$/.test(
        keyAt(tokens, at - (OF.test(keyAt(tokens, at - 1)) ? 2 : 1)),
      ),
  );
const OF = /^(?:of|von|de)$/;
