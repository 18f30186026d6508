import { extensionOf } from '../paths/paths';

/** The forms of settings files that can be read and edited. */
export const DIALECTS = ['ini', 'xml', 'json', 'commands', 'blocks', 'language'] as const;

export type Dialect = (typeof DIALECTS)[number];

const BY_EXTENSION: Record<string, Dialect> = { ini: 'ini', cfg: 'ini', conf: 'ini', xml: 'xml', json: 'json', lang: 'language', loc: 'language' };

/** The form that a file's name speaks for, where nothing better is known. */
export const dialectByName = (path: string): Dialect | undefined => BY_EXTENSION[extensionOf(path)];
