const FOLDER = '(?:folder|directory|ordner|verzeichnis|carpeta|dossier)';
const MAKE = '(?:make|create|add|erstell\\w*|lege?|crea\\w*|cré\\w*)';
const CALLED = '(?:called|named|namens|mit dem namen|llamad[ao]|nommé|appelé)';
/** Signs that put a folder first in a list are part of its name. */
const NAME = '([~_!@+]?[\\p{L}\\p{N}][\\p{L}\\p{N} _-]{0,40}?)';
const WORD = '([~_!@+]?[\\p{L}\\p{N}][\\p{L}\\p{N}_-]{0,40})';
const OPEN = '["“„«\'‘`]?';
const CLOSE = '["”“»\'’`]?';
const IN = '(?:in|inside|within|into|under|beside|next to|alongside|im|neben|en|junto a|dans|à côté de)';
const NO_NAME = `(?!(?:${IN}|${CALLED}|mit|new|neue[nr]?|own|sub|separate)(?!\\p{L}))`;

/** “a folder called skins in …”, “make a folder skins in …”, „einen Ordner skins in …“. */
const CALLED_BEFORE = new RegExp(
  `(?:(?<!\\p{L})${FOLDER}\\s+${CALLED}\\s+${OPEN}|(?<!\\p{L})${MAKE}\\s+(?:\\p{L}+\\s+){0,2}${FOLDER}\\s+${OPEN})${NO_NAME}${NAME}${CLOSE}\\s+${IN}\\s+(?:\\p{L}+\\s+){0,3}${OPEN}$`,
  'iu',
);
/** “create a skins folder inside …”. */
const WORD_BEFORE = new RegExp(
  `(?<!\\p{L})${MAKE}\\s+(?:(?:an?|the|another|new|eine[nr]?|neue[nr]?)\\s+)*${OPEN}${NO_NAME}${WORD}${CLOSE}[ -]?${FOLDER}\\s+${IN}\\s+(?:\\p{L}+\\s+){0,3}${OPEN}$`,
  'iu',
);
/** “in …, create a new folder called skins”, „im Ordner … einen Ordner skins anlegen“. */
const BEHIND = new RegExp(
  `^${CLOSE}(?:\\s+${FOLDER})?,?\\s+(?:(?:please|you|bitte)\\s+)?(?:${MAKE}\\s+)?(?:(?:an?|new|another|eine[nr]?|neue[nr]?|una?|nuev[ao]|une?|nouveau)\\s+)+${FOLDER}\\s+(?:${CALLED}\\s+)?${OPEN}${NO_NAME}${WORD}`,
  'iu',
);

/** “The folder named kites has to be …”: the name ends where the sentence goes on. */
const GOES_ON =
  /\s+(?:has|have|must|should|shall|needs?|is|are|goes?|belongs?|can|may|will|muss|müssen|soll\w*|gehört|kommt|wird|va|debe|tiene|doit|se)(?!\p{L}).*$/iu;

/**
 * The name of a folder that a sentence tells to make in a place.
 *
 * @param before what stands before the place in the sentence
 * @param behind what stands behind it
 * @example newFolderNamed('Make a folder called skins in ', '.') // 'skins'
 */
export const newFolderNamed = (before: string, behind: string): string | undefined =>
  (CALLED_BEFORE.exec(before) ?? WORD_BEFORE.exec(before) ?? BEHIND.exec(behind))?.[1]?.replace(GOES_ON, '').trim();

/** “… in mods”, „… in den Ordner mods“: a place, by a single word. */
const PLACE = new RegExp(
  `(?<!\\p{L})(?:into|in|to|inside|nach|en|a|dans)\\s+(?:(?:the|a|your|its|den|einen|deinen|la|una?|le|un)\\s+)?(?:(?:new|sub)?-?${FOLDER}\\s+)?(?:${CALLED}\\s+)?${OPEN}${NO_NAME}(?!(?:make|create|be|see|use|add|have|get|run|play|find|copy|put|move|load|work|show|open)(?!\\p{L}))([~_!@+]?[\\p{L}\\p{N}][\\p{L}\\p{N}_-]{2,40})${CLOSE}(?=[\\s,;:)!]|\\.(?:\\s|$)|$)`,
  'giu',
);
/** “Make it if you have none”, “which you have to make”. */
const TO_BE_MADE = new RegExp(
  `(?<!\\p{L})(?:(?:make|create)\\s+(?:it|one|that|this|(?:the|that|this)\\s+${FOLDER}|such an?\\s+${FOLDER})(?!\\p{L})|(?:have|need)\\s+to\\s+(?:make|create)(?!\\p{L})(?!\\s+(?:an?|the)\\s)|(?:lege?|erstelle?n?)\\s+(?:ihn|diesen|den\\s+ordner|das\\s+verzeichnis)(?!\\p{L})|(?:muss|musst|müssen)[^.]{0,30}(?:angelegt|erstellt|anlegen|erstellen)(?!\\p{L})|(?:créala|créelo|créalo|crea\\s+la\\s+carpeta|créez-le|crée-le|créez\\s+le\\s+dossier)(?!\\p{L}))`,
  'iu',
);

/**
 * A folder that a read-me names as a place and tells to make: the game has none of that name.
 *
 * @param next the sentence behind, which may be the one that says so
 * @param isKnown is a name one of the game's or the pack's, or a small word?
 * @example folderToMake('Put glow into mods.', 'Make it if it is not there.', () => false)?.name // 'mods'
 */
export function folderToMake(
  text: string,
  next: string,
  isKnown: (name: string) => boolean,
): { name: string; start: number; end: number } | undefined {
  if (!TO_BE_MADE.test(text) && !TO_BE_MADE.test(next)) return undefined;
  const found = [...text.matchAll(PLACE)].filter(([, name = '']) => !isKnown(name));
  const [only, other] = found;
  if (!only || other) return undefined;
  const name = only[1] as string;
  const start = only.index + only[0].lastIndexOf(name);
  return { name, start, end: start + name.length };
}
