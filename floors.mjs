/**
 * The floors of src, the lowest first. What stands on one line imports what stands on lines before it, and nothing
 * else; within a line, only itself. `npm run check` holds it, types included, and finds circles of files on top.
 */
export const CORE = {
  ground: ['errorTable', 'errors', 'words', 'lists', 'progress', 'once', 'bytes', 'hash', 'folder', 'paths'],
  files: ['media', 'archives', 'settings'],
  // Cards; what names in folders teach; placements as data; what packs say; what a game's folders say; where packs go.
  games: ['games', 'names', 'placed', 'inspect', 'study', 'placement'],
  stack: ['layers', 'merge'],
  deploy: ['deploy'],
  setup: ['setup'],
  outcome: ['checks', 'exchange', 'guide'],
};

/** Steps know the game and the contract, never each other. */
export const STEPS = [
  'home',
  'bring-in',
  'place',
  'stack',
  'settings',
  'deploy',
  'check',
  'ledger',
  'card',
  'ingame',
  'history',
  'setup',
  'storage',
];
export const WORKER = [['contract'], ['game'], STEPS, ['tab'], ['worker.ts']];
