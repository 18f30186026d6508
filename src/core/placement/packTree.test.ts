import { describe, expect, it } from 'vitest';
import { entriesOf } from '../../../tests/support/mill';
import { namedByFile, packTree } from './packTree';

describe('a folder that is called like a file in it', () => {
  it.each<[string, string[], string[], string | undefined]>([
    ['the file says it, spelled as it is', ['F:*.kite'], ['Green.kite', 'tail.png'], 'Green'],
    ['numbers of a form', ['F:*_#.lvl'], ['dune_07.lvl'], 'dune'],
    ['two files of one name', ['F:*.kite', 'F:*.txt'], ['green.kite', 'green.txt'], 'green'],
    ['two files say two names', ['F:*.kite'], ['green.kite', 'teal.kite'], undefined],
    ['no form has the folder’s name in it', ['F:tail.png', 'E:|kite'], ['green.kite', 'tail.png'], undefined],
    ['signs of a form are only signs', ['F:*(a+b).kite'], ['green(a+b).kite', 'xaab.kite'], 'green'],
  ])('%s', (_, core, files, name) => {
    expect(namedByFile(packTree(entriesOf(...files)), { core: new Set(core) })).toBe(name);
  });
});
