import { extensionOf } from '../paths/paths';

/** Endings of archives that anybody's tool makes. What else a game calls its archives is its own. */
export const ARCHIVE_ENDINGS = [
  'zip',
  '7z',
  'rar',
  'tar',
  'gz',
  'tgz',
  'bz2',
  'tbz',
  'tbz2',
  'xz',
  'txz',
  'zst',
  'tzst',
];

/** Does a name end like an archive's? */
export const endsLikeArchive = (name: string): boolean => ARCHIVE_ENDINGS.includes(extensionOf(name));

let made: { of: string; whole: RegExp } | undefined;

/** The ending of an archive with what stands before it (`.tar.zst`), or behind it in the parts of a split one. */
function wholeEnding(): RegExp {
  const one = ARCHIVE_ENDINGS.join('|');
  if (made?.of !== one) {
    const whole = `(?:\\.part\\d+\\.rar|\\.tar\\.\\w+|\\.(?:${one})(?:\\.\\d{3})?|\\.[rz]\\d\\d)$`;
    made = { of: one, whole: new RegExp(whole, 'i') };
  }
  return made.whole;
}

/**
 * A download's name without the ending of an archive, of one of its parts too.
 *
 * @example withoutArchiveEnding('boats.tar.zst') // 'boats'
 * @example withoutArchiveEnding('boats.7z.001') // 'boats'
 */
export const withoutArchiveEnding = (name: string): string => name.replace(wholeEnding(), '');
