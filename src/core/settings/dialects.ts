/** The forms of settings files that can be read and edited. */
export const DIALECTS = ['ini'] as const;

export type Dialect = (typeof DIALECTS)[number];
