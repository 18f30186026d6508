import Ajv2020 from 'ajv/dist/2020.js';
import { describe, expect, it } from 'vitest';
import { gameCardJsonSchema, gameCardSchema, plainCard } from '@/core';
import { gullwickCard } from '@/demo/gullwickCard';
import { hedgerowCard } from '@/demo/hedgerow';
import { tinplateCard } from '@/demo/tinplate';

/** The published schema, judged by a validator of another maker (JSON Schema 2020-12). */
const validate = new Ajv2020({ strict: false, formats: { regex: true } }).compile(gameCardJsonSchema());

const bare = { card: 1, id: 'x', title: 'X', roots: [{ id: 'game', title: 'Game folder' }] };

describe('game cards', () => {
  it.each([
    ['Gullwick Ferries', gullwickCard],
    ['Tinplate', tinplateCard],
    ['Hedgerow Hall', hedgerowCard],
    ['a plain card', plainCard('mine', 'Mine')],
    ['one root and nothing else', bare],
  ])('%s is accepted by the published schema and by the app', (_name, card) => {
    expect(validate(card), JSON.stringify(validate.errors)).toBe(true);
    expect(gameCardSchema.safeParse(card).success).toBe(true);
  });

  it.each([
    ['no root', { ...bare, roots: [] }],
    ['another version', { ...bare, card: 2 }],
    ['an id with a slash', { ...bare, id: 'a/b' }],
    ['an unknown part', { ...bare, colour: 'red' }],
    [
      'a switch without a reason',
      {
        ...bare,
        switches: [{ id: 's', title: 'S', file: 'game/x.ini', path: ['A'], on: '1', off: '0', needs: ['**'] }],
      },
    ],
    [
      'an unknown way of placing',
      { ...bare, places: [{ id: 'x', mode: 'by-magic', title: 'X', why: 'x', into: 'game/x' }] },
    ],
    ['a place without a reason', { ...bare, places: [{ id: 'x', mode: 'own-folder', title: 'X', into: 'game/x' }] }],
    [
      'a title without a name',
      { ...bare, titles: { known: [{ id: 'A1', region: 'x' }], pattern: 'x', found: 'game/{id}', into: 'game/x' } },
    ],
    ['an unknown dialect', { ...bare, settings: [{ target: 'game/x', dialect: 'cobol', title: 'X' }] }],
  ])('%s is refused by both', (_name, card) => {
    expect(validate(card)).toBe(false);
    expect(gameCardSchema.safeParse(card).success).toBe(false);
  });

  it.each([
    ['a target outside every root', { ...bare, settings: [{ target: 'other/x.ini', dialect: 'ini', title: 'X' }] }],
    ['a target that climbs', { ...bare, settings: [{ target: 'game/../x.ini', dialect: 'ini', title: 'X' }] }],
    [
      'a recipe for a place that is not there',
      { ...bare, recipes: [{ id: 'r', title: 'R', from: 'other', has: ['x'], place: 'nowhere' }] },
    ],
    [
      'a place outside every root',
      { ...bare, places: [{ id: 'x', mode: 'own-folder', title: 'X', why: 'x', into: 'other/x' }] },
    ],
    [
      'a pattern for ids that is no expression',
      {
        ...bare,
        titles: { known: [{ id: 'A', title: 'A', region: 'A' }], pattern: '(', found: 'game/{id}', into: 'game/x' },
      },
    ],
    [
      'a sealed title outside every root',
      {
        ...bare,
        titles: {
          known: [{ id: 'A', title: 'A', region: 'A' }],
          pattern: 'A',
          found: 'game/{id}',
          into: 'game/x',
          sealed: { file: 'other/{id}.box', opens: 'game/x', why: 'x' },
        },
      },
    ],
    ['two roots of one id', { ...bare, roots: [bare.roots[0], bare.roots[0]] }],
    // A repetition inside a repetition: the textbook case of an expression that backtracks without end.
    [
      'a log rule that could take forever',
      { ...bare, log: { target: 'game/x.log', rules: [{ id: 'r', pattern: '^(a+)+$', level: 'note', says: 'x' }] } },
    ],
    [
      'a log rule that is no expression',
      { ...bare, log: { target: 'game/x.log', rules: [{ id: 'r', pattern: '(', level: 'note', says: 'x' }] } },
    ],
  ])('%s is refused by the app, beyond what a schema can say', (_name, card) => {
    expect(gameCardSchema.safeParse(card).success).toBe(false);
  });
});
