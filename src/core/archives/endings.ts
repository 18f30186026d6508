/** Endings of archives that anybody's tool makes. What else a game calls its archives is its own. */
export const ARCHIVE_ENDINGS = ['zip', '7z', 'rar', 'tar', 'gz', 'tgz', 'bz2', 'tbz', 'tbz2', 'xz', 'txz', 'zst', 'tzst'] as const;

const ONE = ARCHIVE_ENDINGS.join('|');
const AT_END = new RegExp(`\\.(?:${ONE})$`, 'i');
/** With what stands before the last ending, or behind it in the parts of a split one. */
const WHOLE = new RegExp(`(?:\\.part\\d+\\.rar|\\.tar\\.\\w+|\\.(?:${ONE})(?:\\.\\d{3})?|\\.[rz]\\d\\d)$`, 'i');

/** Does a name end like an archive's? */
export const endsLikeArchive = (name: string): boolean => AT_END.test(name);

/**
 * A download's name without the ending of an archive, of one of its parts too.
 *
 * @example withoutArchiveEnding('boats.tar.zst') // 'boats'
 * @example withoutArchiveEnding('boats.7z.001') // 'boats'
 */
export const withoutArchiveEnding = (name: string): string => name.replace(WHOLE, '');
