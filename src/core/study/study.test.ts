import { describe, expect, it } from 'vitest';
import {
  canBeAnswered,
  gameCardSchema,
  proposePlacements,
  saidOnCard,
  sentencesIn,
  setStanding,
  statementSchema,
  studyGame,
  type Statement,
} from '@/core';
import { refusedFolders } from '../games/statement';
import { idForm } from '../names/ids';
import { dialectOf } from './settingsText';
import { GAME, entriesOf, folderOf, study } from '../../../tests/support/mill';

describe('the study of a game', () => {
  it('states what its folders say, each with evidence', async () => {
    const { card, statements } = await study();
    expect(statementSchema.array().safeParse(statements).success).toBe(true);
    expect(gameCardSchema.safeParse(card).success).toBe(true);
    const ids = statements.map(({ id }) => id);
    expect(ids).toEqual(
      expect.arrayContaining([
        'root:game',
        'family:game/gear',
        'ending:sack',
        'settings:game/mill.cfg',
        'settings:game/setup.conf',
        'numbered:game/gear/list.ini',
        'languages:game/text',
      ]),
    );
    for (const { says, evidence } of statements) {
      expect(says).toMatch(/\.$/);
      expect(evidence.length).toBeGreaterThan(0);
    }
    // The form is read from the text: the endings say nothing.
    expect(card.settings.map(({ target, dialect }) => `${target} ${dialect}`)).toEqual(
      expect.arrayContaining(['game/mill.cfg commands', 'game/setup.conf ini', 'game/gear/list.ini ini']),
    );
    expect(card.settings.some(({ target }) => target === 'game/notes.txt')).toBe(false);
    expect(card.settings.find(({ target }) => target === 'game/gear/list.ini')?.numbered).toEqual({
      section: 'gear',
      first: 0,
      folder: 'folder',
      inside: 'game/gear',
    });
  });

  it('law: what a study writes on a card is shown as found, not as told by somebody', async () => {
    const things = Object.fromEntries(
      ['otter', 'stoat', 'heron'].flatMap((name) => [
        [`units/${name}/unit.cfg`, 'strength 10\n'],
        [`units/${name}/unit.png`, ''],
      ]),
    );
    const people = Object.fromEntries(
      ['oda', 'piet'].flatMap((name) => [
        [`people/${name}/own.ini`, '[A]\nhints=1\n'],
        [`people/${name}/last.save`, ''],
      ]),
    );
    for (const files of [
      GAME,
      { ...GAME, ...things },
      { ...GAME, ...people },
      {
        ...GAME,
        'mill.log': '10:00:01 info Old Mill\n10:00:02 info ready\n',
        'paths.cfg': 'search gear\nsearch flour\nsearch text\n',
        'on.ini': '[Gears]\nactive=oak,iron\nnew=brass\n',
      },
    ]) {
      const { card, statements } = await study(files);
      const sentences = sentencesIn(card);
      const found = new Set(statements.flatMap((one) => saidOnCard(one, sentences)));
      expect(sentences.length).toBeGreaterThan(3);
      expect(
        sentences
          .filter((one) => !found.has(one))
          .map(({ form, values }) => `${form} ${Object.values(values).join(' ')}`),
      ).toEqual([]);
    }
  });

  it('keeps what the player refused or agreed to, also where it is not seen any more', async () => {
    const { statements } = await study();
    const answers = setStanding(
      setStanding(statements, 'settings:game/mill.cfg', 'refused'),
      'family:game/gear',
      'confirmed',
    );
    const again = await study(GAME, answers);
    expect(again.statements.find(({ id }) => id === 'settings:game/mill.cfg')?.standing).toBe('refused');
    expect(again.card.settings.some(({ target }) => target === 'game/mill.cfg')).toBe(false);
    const less = await study({ 'mill.exe': '' }, answers);
    expect(less.statements.map(({ id, standing }) => `${id} ${standing}`)).toEqual(
      expect.arrayContaining(['settings:game/mill.cfg refused', 'family:game/gear confirmed']),
    );
  });

  it('what settings name is no kind of things: who says no to that, says nothing of the folder', () => {
    const refused = (about: Statement['about']): Statement => ({
      id: about.what,
      about,
      says: 'It is so.',
      evidence: [],
      standing: 'refused',
    });
    const at = { file: 'game/a.ini', path: ['b'], folder: 'game/things' };
    expect([...refusedFolders([refused({ what: 'list', ...at }), refused({ what: 'names', ...at })])]).toEqual([]);
    expect([...refusedFolders([refused({ what: 'archives', folder: 'game/Packs', files: 2 })])]).toEqual([
      'game/packs',
    ]);
  });

  it('a refused kind is no reason any more', async () => {
    const { card, statements } = await study();
    const gameFiles = Object.keys(GAME).map((path) => `game/${path}`);
    const at = (known: Statement[]) =>
      proposePlacements({
        entries: entriesOf('elm/elm.gear', 'elm/elm.png'),
        card,
        gameFiles,
        name: 'elm.zip',
        statements: known,
      });
    expect(at(statements)).toMatchObject({ confidence: 'sure', placement: { rules: [{ to: 'game/gear' }] } });
    expect(at(setStanding(statements, 'family:game/gear', 'refused')).confidence).toBe('ask');
  });

  it('refused ids are no ids any more, and only what the player’s word changes can be answered', async () => {
    const files = {
      'p.exe': '',
      'discs/AB-1201.img': '',
      'discs/AB-1302.img': '',
      'sets/AB-1201/a.png': '',
      'sets/AB-1201/b.png': '',
      'sets/AB-1302/a.png': '',
    };
    const { card, statements } = await study(files);
    const gameFiles = Object.keys(files).map((path) => `game/${path}`);
    const questions = (known: Statement[]) =>
      proposePlacements({
        entries: entriesOf('AB-9999/a.png', 'AB-9999/c.png'),
        card,
        gameFiles,
        name: 'x.zip',
        statements: known,
      }).questions.map(({ id }) => id);
    expect(questions(statements)).toContain('title:AB-9999');
    expect(questions(setStanding(statements, 'ids:AA-9999', 'refused'))).not.toContain('title:AB-9999');
    expect(statements.filter(canBeAnswered).map(({ about }) => about.what)).not.toContain('root');
  });

  it('takes a file that is too large to be read for settings by its ending alone', async () => {
    const large = {
      id: 'game',
      title: 'Old Mill',
      files: [
        { path: 'long.ini', size: 22_000_000 },
        { path: 'long.dat', size: 22_000_000 },
        { path: 'huge.ini', size: 50_000_000 },
      ],
      read: () => Promise.reject(new Error('must not be read')),
    };
    expect((await studyGame([large])).card.settings.map(({ target }) => target)).toEqual(['game/long.ini']);
  });

  it('can be stopped, and survives folders that cannot be read and names that look like patterns', async () => {
    const stop = new AbortController();
    stop.abort();
    await expect(studyGame([folderOf(GAME)], { signal: stop.signal })).rejects.toThrow();
    const broken = { ...folderOf(GAME), read: () => Promise.reject(new Error('no')) };
    expect((await studyGame([broken])).card.settings).toEqual([]);
    const odd = Object.fromEntries(
      [
        '[a-z]+/(x+)+.ini',
        '{profile}/{title}.cfg',
        '__proto__/constructor.ini',
        '**/*.ini',
        `${'deep/'.repeat(60)}x.ini`,
      ].map((path) => [path, '[a]\nb=1\n']),
    );
    expect(gameCardSchema.safeParse((await study(odd)).card).success).toBe(true);
  });

  it.each<[string, string | undefined]>([
    ['[A]\nb=1\n', 'ini'],
    ['b=1\nc=2\n', 'ini'],
    ['{"a":1}', 'json'],
    ['<a b="1"/>', 'xml'],
    ['speed 3\nname "x y"\n', 'commands'],
    ['a\n{\n  b 1\n}\n', 'blocks'],
    ['start: "Go"\nquit: "Stop"\n', 'language'],
    ['volume:0.5\nlang:en\n', 'colons'],
    ['order:\n  - core\n  - bronze\n', 'yaml'],
    ['A story. It has sentences, and they are long enough to be prose.\n', undefined],
    ['', undefined],
    ['\u0000\u0001', undefined],
    ['oak\niron\nbrass\n', undefined],
  ])('%j is read as %s', (text, dialect) => {
    expect(dialectOf(text)).toBe(dialect);
  });

  it('takes names of things in the game for values, where others are plain values', () => {
    const isName = (word: string) => ['cattle', 'geese', 'bitter'].includes(word);
    const inn = 'beds 6\nale bitter\ndrove cattle\ndrove geese\n';
    expect(dialectOf(inn)).toBeUndefined();
    expect(dialectOf(inn, isName)).toBe('commands');
    // What a thing says of itself is no setting of the game.
    expect(dialectOf('name cattle\n', isName)).toBeUndefined();
  });

  it.each([
    ['OR-2201-W', true],
    ['CB-2041', true],
    ['00041234', true],
    ['a1b2c3d4', true],
    ['folder', false],
    ['level1', false],
    ['readme', false],
    ['v2', false],
  ])('%s looks like an id: %s', (name, is) => {
    expect(idForm(name) !== undefined).toBe(is);
  });
});
