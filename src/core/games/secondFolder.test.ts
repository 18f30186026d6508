import { describe, expect, it } from 'vitest';
import { cardFromFolder, cardWithFolder, gameCardSchema } from '@/core';

const { card } = cardFromFolder('my-game', 'My game', [
  { path: 'game.exe', size: 9 },
  { path: 'data/a.map', size: 5 },
]);

describe('a second folder of a game', () => {
  it('gets a root, its settings files and its log', () => {
    const found = cardWithFolder(card, 'User-data folder', [
      { path: 'game.ini', size: 5 },
      { path: 'logs/load.log', size: 5 },
      { path: 'saves/one.sav', size: 5 },
    ]);
    expect(found.root).toBe('user');
    expect(found.card.roots.map(({ id, title }) => `${id}: ${title}`)).toEqual([
      'game: Program folder',
      'user: User-data folder',
    ]);
    expect(found.card.settings.map(({ target }) => target)).toEqual(['user/game.ini']);
    expect(found.card.log?.target).toBe('user/logs/load.log');
    expect(gameCardSchema.safeParse(found.card).success).toBe(true);
  });

  it('never takes the place of what is there: neither ids nor a log', () => {
    let many = cardFromFolder('my-game', 'My game', [{ path: 'own.log', size: 1 }]).card;
    for (let i = 0; i < 4; i++) many = cardWithFolder(many, `Folder ${i}`, [{ path: 'x.log', size: 1 }]).card;
    expect(new Set(many.roots.map(({ id }) => id)).size).toBe(5);
    expect(many.log?.target).toBe('game/own.log');
  });
});
