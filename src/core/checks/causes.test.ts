import { describe, expect, it } from 'vitest';
import { checkBefore, decodeText, nameKey, readLog, traceMessages, type PresentFile, parseTarget } from '@/core';
import { gullwickCard as card } from '@/demo/gullwickCard';
import { tinplateCard, tinplateFolders } from '@/demo/tinplate';
import { MemoryFolder } from '../../../tests/support/memoryFolder';
import { runTinplate } from '@/trial/tinplate';
import { text as bytes, PNG } from '../../../tests/support/bytes';

describe('titles by their id', () => {
  // Common practice: a texture folder named after the wrong region's title id does not load; the same textures serve
  // another region once the folder bears its id.
  it.each([
    ['another region’s id', 'user/paintbox/CB-7041/swap/bun.png', 'user/paintbox/CB-2041/swap/bun.png'],
    ['a misspelled id', 'user/paintbox/CB-2014/swap/bun.png', 'user/paintbox/CB-2041/swap/bun.png'],
    ['one level too high', 'user/paintbox/CB-2041/bun.png', 'user/paintbox/CB-2041/swap/bun.png'],
    ['one level too deep', 'user/paintbox/CB-2041/swap/swap/bun.png', 'user/paintbox/CB-2041/swap/bun.png'],
    ['inside another folder', 'user/paintbox/Sugar Buns/CB-2041/swap/bun.png', 'user/paintbox/CB-2041/swap/bun.png'],
  ])('%s: does not load, is found, and its cure makes it load', async (_, from, to) => {
    const own = tinplateFolders();
    const run = async (target: string) => {
      const folders = {
        player: new MemoryFolder(own.player),
        user: new MemoryFolder({
          ...own.user,
          [target.slice('user/'.length)]: PNG,
          'tinplate.ini': bytes('[Textures]\nLoadPaintbox=1\n'),
        }),
      };
      await runTinplate(folders);
      const reading = readLog(
        decodeText(folders.user.contents()['tinplate.log'] ?? bytes('')).text,
        tinplateCard.log?.rules ?? [],
      );
      return Number(reading.messages.find(({ rule }) => rule === 'painted')?.fields.count);
    };
    const check = (target: string) =>
      checkBefore({
        card: tinplateCard,
        files: [
          ...Object.entries(own).flatMap(([root, tree]) =>
            Object.keys(tree).map((path) => ({ target: parseTarget(`${root}/${path}`) })),
          ),
          { target: parseTarget(target), layer: 'sugar' },
        ],
        texts: new Map(),
        originals: new Map(),
        settings: [],
        nameOf: () => 'Sugar Buns',
      });
    const [finding] = check(from);
    expect(finding?.fixes[0]).toMatchObject({ kind: 'move', moves: [{ from, to }] });
    const without = await run(from);
    expect(await run(to)).toBeGreaterThan(without);
    expect(check(to)).toEqual([]);
  });
});

describe('other mistakes', () => {
  const check = (cardUsed: typeof card, files: Record<string, string>, layers: Record<string, string>) =>
    checkBefore({
      card: cardUsed,
      files: Object.keys(files).map((target) => ({
        target: parseTarget(target),
        ...(layers[target] === undefined ? {} : { layer: layers[target] }),
      })),
      texts: new Map(Object.entries(files).map(([target, text]) => [nameKey(target), text])),
      originals: new Map(),
      settings: [],
      nameOf: (layer) => layer,
    });
  it('straight in the add-on folder: a folder of its own is the cure', () => {
    const target = 'program/addons/textures/a.png';
    expect(check(card, { [target]: '' }, { [target]: 'Brass' })[0]).toMatchObject({
      id: 'straight-in:Brass',
      fixes: [{ kind: 'move', moves: [{ from: target, to: 'program/addons/brass/textures/a.png' }] }],
    });
  });
  it('an add-on without its manifest: it is written', () => {
    const target = 'program/addons/brass/textures/a.png';
    expect(check(card, { [target]: '' }, { [target]: 'Brass' })[0]).toMatchObject({
      id: 'no-manifest:brass',
      fixes: [{ kind: 'add file', to: 'program/addons/brass/addon.txt' }],
    });
  });
});

describe('a line that names a file', () => {
  const rules = [
    {
      id: 'missing',
      pattern: '^missing (?<file>.+)$',
      level: 'error' as const,
      says: 'The game misses {file}.',
      about: { kind: 'file' as const, field: 'file', under: parseTarget('program') },
    },
  ];
  const game = (...targets: [string, string?][]): PresentFile[] =>
    targets.map(([target, layer]) => ({ target: parseTarget(target), ...(layer === undefined ? {} : { layer }) }));
  const found = (line: string, files: PresentFile[], says = rules[0]?.says ?? '') => {
    const known = rules.map((rule) => ({
      ...rule,
      says,
      pattern: line.startsWith('missing') ? rule.pattern : '^(?:could not read|corrupt) (?<file>.+)$',
    }));
    return traceMessages(readLog(line, known).messages, {
      card,
      rules: known,
      files,
      leftOut: [],
      originals: new Map(),
      nameOf: (layer) => layer,
    });
  };

  it('which one pack alone has elsewhere says where that belongs', () => {
    const [finding] = found(
      'missing lamps/brass.lamp',
      game(['program/gear/brass.lamp', 'Brass Lamps'], ['program/lamps/old.lamp']),
    );
    expect(finding?.cause).toBe(
      'The game looks for it at Program folder/lamps/brass.lamp; “Brass Lamps” has it at Program folder/gear/brass.lamp. Move it there.',
    );
    expect(finding?.fixes[0]).toMatchObject({
      kind: 'move',
      moves: [{ from: 'program/gear/brass.lamp', to: 'program/lamps/brass.lamp' }],
    });
  });

  it('is not cured by a copy where it says that a file cannot be read', () => {
    const files = game(['program/lamps/old.lamp'], ['program/lamps/tin.lamp']);
    expect(found('missing lamps/oil.lamp', files)[0]?.fixes.map(({ kind }) => kind)).toContain('stand-in');
    for (const line of ['could not read lamps/oil.lamp', 'corrupt lamps/oil.lamp'])
      expect(
        found(line, files, 'The game says of {file}.')[0]?.fixes.map(({ kind }) => kind) ?? [],
        line,
      ).not.toContain('stand-in');
  });
});
