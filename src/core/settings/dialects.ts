import { extensionOf } from '../paths/paths';

/** The forms of settings files that can be read and edited. In `ini-comments` a comment can stand behind a value. */
export const DIALECTS = ['ini', 'ini-comments', 'xml', 'json', 'commands', 'blocks', 'language', 'codes', 'yaml', 'colons'] as const;

export type Dialect = (typeof DIALECTS)[number];

const BY_EXTENSION: Record<string, Dialect> = { ini: 'ini', cfg: 'ini', conf: 'ini', xml: 'xml', json: 'json', lang: 'language', loc: 'language', codes: 'codes', yml: 'yaml', yaml: 'yaml' };

/** The form that a file's name speaks for, where nothing better is known. */
export const dialectByName = (path: string): Dialect | undefined => BY_EXTENSION[extensionOf(path)];
