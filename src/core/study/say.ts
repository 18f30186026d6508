import type { About, Statement } from '../games/statement';

/** So many of one kind are stated: the largest first. */
export const MOST = 60;

export const say = (id: string, about: About, says: string, evidence: Statement['evidence']): Statement => ({
  id: id.slice(0, 300),
  about,
  says: says.slice(0, 600),
  evidence: evidence.slice(0, 20),
  standing: 'found',
});

export const from = (target: string, says: string): Statement['evidence'][number] => ({
  says: says.slice(0, 600),
  source: { from: 'folder', target },
});
