/** How a dropped edit is counted. */
export const dropKey = (file: string, path: readonly string[]): string => [file, ...path].join('\n');
