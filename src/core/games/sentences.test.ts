import { describe, expect, it } from 'vitest';
import {
  SENTENCE_FORMS,
  blanksOf,
  formOf,
  gameCardJsonSchema,
  idToPattern,
  likeToPattern,
  plainCard,
  saidAs,
  sentencesIn,
  tell,
  untell,
  type GameCard,
} from '@/core';
import { gullwickCard } from '@/demo/gullwickCard';
import { hedgerowCard } from '@/demo/hedgerow';
import { tinplateCard } from '@/demo/tinplate';

interface Schema {
  properties?: Record<string, Schema>;
  items?: Schema;
  anyOf?: Schema[];
  oneOf?: Schema[];
  additionalProperties?: Schema | boolean;
  const?: unknown;
}

/** Every part of a card that the published schema has, without the numbers of lists. */
function partsOf(schema: Schema, path = ''): string[] {
  const inside = [...(schema.anyOf ?? []), ...(schema.oneOf ?? [])];
  if (inside.some((one) => one.properties)) return inside.flatMap((one) => partsOf(one, path));
  if (schema.items?.properties || schema.items?.oneOf || schema.items?.anyOf) return partsOf(schema.items, path);
  if (!schema.properties) return [path];
  return Object.entries(schema.properties).flatMap(([name, one]) =>
    partsOf(one, path === '' ? name : `${path}.${name}`),
  );
}

/**
 * Set by the app itself, or by another control of the same page: the version, ids, the game's own title, and what only
 * the demo has.
 */
const ITS_OWN = /^(?:card|id|title|trial)$|\.id$|^places\.mode$/;

describe('the sentences of a game card', () => {
  it('say every part that the published schema of a card has', () => {
    const said = new Set(
      SENTENCE_FORMS.flatMap((form) =>
        blanksOf(form).flatMap(({ field }) =>
          field === form.of?.blank ? [] : [[form.of?.list, form.in, field].filter(Boolean).join('.')],
        ),
      ),
    );
    const parts = [...new Set(partsOf(gameCardJsonSchema()))];
    expect(parts.length).toBeGreaterThan(90);
    expect(parts.filter((part) => !said.has(part) && (!ITS_OWN.test(part) || part === 'titles.known.id'))).toEqual([]);
    // And nothing that no card can hold.
    expect([...said].filter((part) => !parts.includes(part))).toEqual([]);
  });

  it.each([
    ['Gullwick', gullwickCard],
    ['Tinplate', tinplateCard],
    ['Hedgerow', hedgerowCard],
  ])(
    'law: what the card of %s says, told again, is the same card; taken away, it is not said any more',
    (_, card: GameCard) => {
      const sentences = sentencesIn(card);
      expect(sentences.length).toBeGreaterThan(8);
      for (const { form: id, at, values } of sentences) {
        const form = formOf(id);
        if (!form) throw new Error(id);
        expect(tell(card, form, values, at)).toEqual({ ok: true, card });
        const says = saidAs(form, values);
        expect(says).toMatch(/\.$/);
        expect(says).not.toMatch(/[{}|]\w+\||undefined|\( /);
        const less = untell(card, at);
        if (less.ok) expect(sentencesIn(less.card).length).toBeLessThan(sentences.length);
      }
    },
  );

  it('tells a plain card one thing after the other, with what has to come first', () => {
    const say = (card: GameCard, id: string, values: Record<string, string>): GameCard => {
      const form = formOf(id);
      const told = form && tell(card, form, values);
      if (!told?.ok) throw new Error(`${id}: ${told?.why ?? ''}`);
      return told.card;
    };
    let card = plainCard('mill', 'Old Mill');
    expect(
      tell(card, formOf('key') as never, { path: 'A › B', file: 'game/mill.ini', type: 'flag', meaning: 'x' }),
    ).toMatchObject({ ok: false, field: 'file' });
    card = say(card, 'settings', { target: 'game/mill.ini', dialect: 'ini', title: 'mill.ini' });
    card = say(card, 'key', {
      path: 'A › B',
      file: 'game/mill.ini',
      type: 'number',
      meaning: 'How fast',
      min: '1',
      max: '9',
    });
    card = say(card, 'switch', {
      needs: 'game/mods/**',
      path: 'A > Loose',
      file: 'game/mill.ini',
      on: '1',
      off: '0',
      title: 'Loose files',
    });
    card = say(card, 'loose', { files: '*.map, *.scn', into: 'game/maps' });
    card = say(card, 'log', { target: 'game/mill.log' });
    card = say(card, 'rule', {
      pattern: '12:01 cannot open ({file})',
      says: 'Cannot open {file}',
      level: 'warning',
      'about.kind': 'file',
      'about.field': 'file',
    });
    card = say(card, 'titles', { pattern: 'AB12-0034', into: 'game/textures', found: 'game/covers/{id}.jpg' });
    card = say(card, 'title', { id: 'AB12-0077', title: 'Tin Boat', region: 'Europe' });
    expect(card).toMatchObject({
      settings: [
        { target: 'game/mill.ini', keys: [{ path: ['A', 'B'], type: 'number', min: 1, max: 9, meaning: 'How fast' }] },
      ],
      switches: [{ id: 'loose-files', path: ['A', 'Loose'], needs: ['game/mods/**'], on: '1' }],
      places: [{ mode: 'loose', files: ['*.map', '*.scn'], into: 'game/maps' }],
      titles: { into: 'game/textures', known: [{ id: 'AB12-0077' }] },
      log: { rules: [{ says: 'Cannot open {file}', about: { kind: 'file', field: 'file' } }] },
    });
    expect(new RegExp(card.log?.rules[0]?.pattern ?? '').exec('13:59 cannot open (deep/b.dds)')?.groups?.file).toBe(
      'deep/b.dds',
    );
    expect(new RegExp(`^(?:${card.titles?.pattern ?? ''})$`).test('CD90-0002')).toBe(true);
  });

  it.each([
    ['loose', { files: '*.map', into: '../out' }, 'into'],
    ['loose', { files: '', into: 'game/maps' }, 'files'],
    ['switch', { needs: 'x', path: 'A', file: 'nowhere/x.ini', on: '1', off: '0', title: 'x' }, 'file'],
    ['edition', { title: 'x', maxTexture: 'large' }, 'maxTexture'],
    ['log', { target: 'game/a.log', trace: '/(a+)+b/' }, 'trace'],
  ])('%s with something that does not fit is refused, and says which blank', (id, values, field) => {
    const told = tell(plainCard('mill', 'Old Mill'), formOf(id) as never, values);
    expect(told).toMatchObject({ ok: false, field });
    if (!told.ok) expect(told.why).not.toBe('');
  });

  it('examples are taken by their letters, never as expressions', () => {
    expect(new RegExp(likeToPattern('a.b (c) [d] {e} +f?')).test('a.b (c) [d] anything +f?')).toBe(true);
    expect(new RegExp(likeToPattern('a.b')).test('axb')).toBe(false);
    expect(idToPattern('A.0-x')).toBe('[A-Za-z]\\.\\d\\-[A-Za-z]');
  });
});
