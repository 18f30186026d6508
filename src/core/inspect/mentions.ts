import { PROGRAM_FOLDER } from '../names/rootWords';
import { baseName, extensionOf, nameKey } from '../paths/paths';
import { nothing, type Cue, type Ground, type Mention } from './mention';
import { PackNames, filesOf, foldersOf } from './mentionedNames';
import { wordsOf, type Word } from './readMeSentences';

const LONGEST_NAME = 6;

const SMALL = new Set(
  (
    'the a an of to in on at is it its and or not for with all any no yes this that these those your you we he she they them one two ' +
    'here there as by be been are was if so do does up out off new old now then than also will can may has have had just more most other some from into over ' +
    'game mod pack file files folder folders directory archive readme install version player players press menu options settings enjoy thanks ' +
    'der die das den dem ein eine und oder nicht mit von zu im in ist sind du sie es el la los las un una y o no con de en es son le les des et ou pas avec dans est'
  ).split(' '),
);

/** A word that names nothing by itself. */
export const isSmallWord = (word: string): boolean => SMALL.has(word) || FOLDER_WORD.test(word);

const FOLDER_WORD =
  /^(?:sub)?(?:folders?|director(?:y|ies)|dir|path|ordners?|verzeichnis(?:se|ses)?|unterordner|carpetas?|directorio|dossiers?|répertoire)$/;

const DETERMINER =
  /^(?:the|a|an|your|its|his|own|game|game's|game’s|games|this|that|same|existing|other|others|file|called|named|respective|corresponding|correct|right|der|die|das|den|dem|des|deine?[nmr]?|dein|ihre?n?|eigenen?|anderen?|namens|el|la|los|las|tu|su|del|juego|demás|otr[ao]s|llamad[ao]|le|les|l|votre|ton|ta|autres|nommé|root|top-level|main|spiels|spieles|jeu)$/;

const CUES: [Exclude<Cue, undefined>, RegExp][] = [
  [
    'beside',
    /(?:^|\s)(?:next to|besides?|along ?side(?: of)?|among(?:st)?|between|together with|along with|neben|zu den|zu|unter die|bei(?: den)?|junto (?:a|al|con)|al lado de|entre|à côté (?:de|des|du)|parmi|joins?|near)$/,
  ],
  ['like', /(?:^|\s)(?:with|mit|con|avec|like|as|wie|como|comme)$/],
  [
    'over',
    /(?:^|\s)(?:over|on top of|overwrit(?:e|es|ing)|replac(?:e|es|ing)|instead of|in place of|place of|(?:ü|ue)ber|ersetz(?:t|en|e)|anstelle(?: von| der| des)?|sobre|reemplaza[rn]?|sustituye[n]?|en lugar de|remplace[rnz]*|par-dessus|à la place (?:de|du|des))$/,
  ],
  ['into', /(?:^|\s)(?:works?|is read|are read|loads?|gets? loaded) from$/],
  ['from', /(?:^|\s)(?:from|out of|aus|von|desde|depuis)$/],
  ['inside', /(?:^|\s)(?:inside(?: of)?|within|innerhalb(?: von)?|dentro de|à l['’]intérieur (?:de|du))$/],
  [
    'into',
    /(?:^|\s)(?:into|in|to|onto|under|below|beneath|at|ins|im|nach|unter|en|a|al|hacia|dans|à|au|aux|sous|vers|is|where|contains?|goes|belongs?|→)$/,
  ],
];

const ALL =
  /^(?:everything|all|all of it|all of them|contents?|the lot|them|it|these|both|alles|alle|inhalt|beide|sie|todo|todos|ambos|contenido|tout|tous|contenu|files?|dateien|archivos|ficheros|fichiers|pictures?|images?|textures?|bilder|texturen|imágenes|texturas|sounds?|maps?|zip|archive)$/;

const CONTENTS =
  /(?:contents? (?:of|from)|everything (?:in|inside|from)|what(?:['’]s| is| lies)? (?:in|inside)|files (?:in|inside|from|of)|inhalt (?:von|aus|des|der)|contenido de|contenu (?:de|du))$/;

const ROOTS = new RegExp(PROGRAM_FOLDER, 'giu');

/** Reads sentences for one pack and one game. */
export class MentionReader {
  private readonly pack: PackNames;

  constructor(private readonly ground: Ground) {
    this.pack = new PackNames(ground.entries);
  }

  /** Everything that a sentence names, in its order. */
  of(sentence: string): Mention[] {
    const words = wordsOf(sentence);
    const found: Mention[] = [];
    const roots = [...sentence.matchAll(ROOTS)].map((one) => ({ start: one.index, end: one.index + one[0].length }));
    for (let i = 0; i < words.length;) {
      const root = roots.find(({ start, end }) => start <= (words[i]?.start ?? 0) && (words[i]?.end ?? 0) <= end);
      const taken = root ? undefined : this.at(words, i, sentence);
      if (root) {
        const last = words.findLastIndex(({ end }) => end <= root.end + 2);
        const cue = cueOf(words, i) ?? 'into';
        const first = this.ground.roots[0]?.id ?? 'game';
        found.push({
          ...nothing(words[i] as Word, words[Math.max(i, last)] as Word, sentence),
          cue,
          gameFolders: [first],
        });
        i = Math.max(i, last) + 1;
      } else if (taken) {
        found.push(taken.mention);
        i = taken.next;
      } else i++;
    }
    return found;
  }

  /** The longest name that begins with a word. */
  private at(words: readonly Word[], i: number, sentence: string): { mention: Mention; next: number } | undefined {
    for (let n = Math.min(LONGEST_NAME, words.length - i); n > 0; n--) {
      const some = words.slice(i, i + n);
      if (some.slice(0, -1).some(({ stop }) => stop) || (n > 1 && some.some(({ quoted }) => quoted))) continue;
      const mention = this.named(words, i, n, sentence);
      if (mention) return { mention, next: i + n };
    }
    return undefined;
  }

  private named(words: readonly Word[], i: number, n: number, sentence: string): Mention | undefined {
    const some = words.slice(i, i + n);
    const [first, last] = [some[0] as Word, some.at(-1) as Word];
    const written = some.map(({ text }) => text).join(' ');
    const key = nameKey(written).replace(/['’]s$/, '');
    if (n === 1 && SMALL.has(key) && !first.quoted) return this.general(words, i, sentence);
    const mention: Mention = {
      ...nothing(first, last, sentence),
      cue: cueOf(words, i),
      ...this.inPack(key, written),
      ...this.inGame({ key, written, words, i, n }),
      contents: CONTENTS.test(wordsBefore(words, i)),
    };
    const { packFolders, packFiles, gameFolders, gameFiles, newFolders } = mention;
    const names = [packFolders, packFiles, gameFolders, gameFiles, newFolders];
    if (names.some(({ length }) => length > 0)) return mention;
    return n === 1 ? this.general(words, i, sentence) : undefined;
  }

  private inPack(key: string, written: string): Pick<Mention, 'packFolders' | 'packFiles'> {
    const packFolders = this.pack.folders.get(key) ?? [];
    const isFolder = packFolders.length > 0 && !written.includes('.');
    return { packFolders, packFiles: isFolder ? [] : (this.pack.files.get(key) ?? []) };
  }

  private inGame({ key, written, words, i, n }: NameAt): Pick<Mention, 'gameFolders' | 'gameFiles' | 'newFolders'> {
    // Several words are one name only as they stand.
    const game = foldersOf(key, this.ground, n > 1);
    const gameFiles = filesOf(key, this.ground, n > 1);
    const last = words[i + n - 1] as Word;
    // An ordinary word is a folder only where the sentence treats it as one.
    const plain = n === 1 && !last.quoted && /^\p{Ll}+$/u.test(written);
    const asFolder = !plain || isBesideFolderWord(words, i, n) || cueOf(words, i) !== undefined;
    // A path that ends like a file names no folder to be made.
    const isNewFolder = written.includes('/') && gameFiles.length === 0 && !/\.\p{L}{1,5}$/u.test(written);
    return {
      gameFolders: asFolder ? asWritten(game.found, last.text) : [],
      gameFiles: written.includes('.') || n > 1 ? gameFiles : [],
      newFolders: isNewFolder ? game.fresh : [],
    };
  }

  /** “everything”, “both pictures”, “all .x files”. */
  private general(words: readonly Word[], i: number, sentence: string): Mention | undefined {
    const word = words[i] as Word;
    const ending = /^\*?\.([\p{L}\p{N}]{1,10})s?$/u.exec(word.key)?.[1];
    if (ending !== undefined) {
      const packFilesOfIt = this.ground.entries
        .filter(({ path }) => extensionOf(path) === ending)
        .map(({ path }) => path);
      return packFilesOfIt.length > 0
        ? { ...nothing(word, word, sentence), cue: cueOf(words, i), packFiles: packFilesOfIt }
        : undefined;
    }
    // “the two pkz”: an ending of the pack's files as a word.
    const bare = SMALL.has(word.key)
      ? undefined
      : [word.key, word.key.replace(/s$/, '')].find((one) => one.length > 2 && this.pack.endings.has(one));
    if (bare !== undefined)
      return {
        ...nothing(word, word, sentence),
        cue: cueOf(words, i),
        packFiles: this.ground.entries.filter(({ path }) => extensionOf(path) === bare).map(({ path }) => path),
      };
    if (!ALL.test(word.key) || cueOf(words, i) === 'from') return undefined;
    return { ...nothing(word, word, sentence), all: true };
  }
}

/** Some words that may be a name: as they are written and compared, and where they stand. */
interface NameAt {
  key: string;
  written: string;
  words: readonly Word[];
  i: number;
  n: number;
}

const isBesideFolderWord = (words: readonly Word[], i: number, n: number): boolean =>
  FOLDER_WORD.test(words[i + n]?.key ?? '') || FOLDER_WORD.test(words[i - 1]?.key ?? '');

/** The words right before a name that say something of it. */
const wordsBefore = (words: readonly Word[], i: number): string =>
  nameKey(
    words
      .slice(Math.max(0, i - 4), i)
      .filter(({ key }) => !DETERMINER.test(key))
      .map(({ key }) => key)
      .join(' '),
  );

/** Of folders whose names differ only in capitals the ones that are spelled as it is written. */
function asWritten(folders: string[], written: string): string[] {
  const name = written.slice(written.lastIndexOf('/') + 1);
  const exact = folders.filter((folder) => baseName(folder) === name);
  return exact.length > 0 ? exact : folders;
}

/** What the words before a name say of it. */
function cueOf(words: readonly Word[], i: number): Cue {
  let at = i - 1;
  const isPassed = ({ stop, key }: Word) => !stop && (DETERMINER.test(key) || FOLDER_WORD.test(key));
  for (let word = words[at]; word && i - at <= 5 && isPassed(word); word = words[at]) at--;
  if (at < 0 || words[at]?.stop) return undefined;
  const before = words
    .slice(Math.max(0, at - 3), at + 1)
    .map(({ key }) => key)
    .join(' ');
  return CUES.find(([, test]) => test.test(before))?.[0];
}
