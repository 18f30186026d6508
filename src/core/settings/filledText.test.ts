import ini from 'ini';
import { describe, expect, it } from 'vitest';
import { filledText } from '@/core';

const bytes = (text: string): Uint8Array<ArrayBuffer> => new TextEncoder().encode(text);

describe('a text filled up from another one', () => {
  it('has every key of both, keeps its own values and comments (read by the package ini)', () => {
    const mine = '; by hand\n[t]\nhi=ahoy\n';
    const filled = new TextDecoder().decode(filledText(bytes(mine), bytes('[t]\nhi=hi\nbye=bye\n[u]\nx=1\n'), 'ini'));
    expect(ini.parse(filled)).toEqual({ t: { hi: 'ahoy', bye: 'bye' }, u: { x: '1' } });
    expect(filled.startsWith('; by hand\n[t]\nhi=ahoy\n')).toBe(true);
  });

  it('says where its encoding cannot hold what is to come in', () => {
    // Windows-1252: “é” is one byte that no UTF-8 text has by itself.
    const old = new Uint8Array([...bytes('[t]\nhi=caf'), 0xe9, ...bytes('\n')]);
    expect(filledText(old, bytes('[t]\nbye=\u4f60\n'), 'ini')).toBeUndefined();
    const filled = filledText(old, bytes('[t]\nbye=bye\n'), 'ini');
    expect(Array.from(filled ?? [])).toContain(0xe9);
  });
});
