/** A failure as the system tells it (errno(3)). */
export const coded = (code: string): Error => Object.assign(new Error(`${code}: so it is`), { code });

/** How long something is waited for, on a busy machine, too (`vi.waitFor`). */
export const WAIT = { timeout: 60_000 };
