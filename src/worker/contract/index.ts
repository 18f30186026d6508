// What page and worker say to each other. The page imports this, and nothing else of the worker.
export type * from './tag';
export type * from './tab';
export type * from './gameView';
export type * from './messages';
export type * from './rows';
export type * from './bringIn';
export type * from './place';
export type * from './stack';
export type * from './settings';
export type * from './deploy';
export type * from './check';
export type * from './ledger';
export type * from './card';
export type * from './ingame';
export type * from './home';
export type * from './history';
export type * from './setUps';
