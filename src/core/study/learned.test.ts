import { describe, expect, it } from 'vitest';
import { learn, noDecisions, proposePlacements, setStanding, type Statement, parseTarget } from '@/core';
import { GAME, entriesOf, study } from '../../../tests/support/mill';

describe('learning', () => {
  const gameFiles = Object.keys(GAME).map((path) => `game/${path}`);
  const placed = (to: string) => ({
    rules: [{ as: 'files' as const, from: '', to: parseTarget(to) }],
    leftOut: [],
    made: [],
    decisions: noDecisions,
  });
  const ask = async (statements: Statement[], name: string) => {
    const { card } = await study();
    return proposePlacements({ entries: entriesOf(name), card, gameFiles, name: 'x.zip', statements });
  };

  it('takes an answer for packs of that kind: likely after one, sure after two, unlearnt when taken back', async () => {
    expect((await ask([], 'new.song')).confidence).toBe('ask');
    const once = learn([], { entries: entriesOf('a.song'), placement: placed('game/flour'), pack: 'A', gameFiles });
    expect(await ask(once, 'new.song')).toMatchObject({
      confidence: 'likely',
      placement: { rules: [{ to: 'game/flour' }] },
    });
    // The same pack teaches once.
    expect(
      learn(once, { entries: entriesOf('a.song'), placement: placed('game/flour'), pack: 'A', gameFiles }),
    ).toEqual(once);
    const twice = learn(once, { entries: entriesOf('b.song'), placement: placed('game/flour'), pack: 'B', gameFiles });
    expect((await ask(twice, 'new.song')).confidence).toBe('sure');
    const back = setStanding(twice, twice[0]?.id ?? '', 'refused');
    expect((await ask(back, 'new.song')).confidence).toBe('ask');
    expect(
      learn(back, { entries: entriesOf('c.song'), placement: placed('game/flour'), pack: 'C', gameFiles }),
    ).toEqual(back);
  });

  it('learns nothing from a file for one of many alike, nor from a kind that lies all over the game', () => {
    const told = (to: string, name: string, of = gameFiles) =>
      learn([], { entries: entriesOf(name), placement: placed(to), pack: 'A', gameFiles: of });
    expect(told('game/gear/oak', 'oak.png')).toEqual([]);
    expect(told('game/flour', 'x.png', [...gameFiles, 'game/maps/a.png', 'game/icons/b.png'])).toEqual([]);
    expect(told('game/flour', 'x.song')).toHaveLength(1);
  });

  it('learns nothing from a pack that goes to several places', () => {
    const placement = {
      ...placed('game/flour'),
      rules: [
        { as: 'file' as const, from: 'a.song', to: parseTarget('game/flour/a.song') },
        { as: 'file' as const, from: 'b.song', to: parseTarget('game/text/b.song') },
      ],
    };
    expect(learn([], { entries: entriesOf('a.song', 'b.song'), placement, pack: 'A', gameFiles })).toEqual([]);
  });
});
