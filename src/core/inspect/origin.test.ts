import { describe, expect, it } from 'vitest';
import { originOf, whereFromsMark, zoneMark } from './origin';

describe('where a download came from', () => {
  it.each([
    [{ page: 'https://packs.example/boats/7', file: 'https://cdn.example/x.zip' }, 'https://packs.example/boats/7'],
    // Many sites tell no more than their own name.
    [{ page: 'https://packs.example/', file: 'https://cdn.example/x.zip' }, 'https://cdn.example/x.zip'],
    [{ page: 'https://packs.example/' }, 'https://packs.example/'],
    [{ page: 'about:blank', file: 'https://cdn.example/x.zip' }, 'https://cdn.example/x.zip'],
    [{ file: 'file:///home/ada/x.zip' }, undefined],
    [{ page: 'javascript:alert(1)', file: `https://x.example/${'a'.repeat(3000)}` }, undefined],
    [{}, undefined],
  ])('%j', (mark, wanted) => {
    expect(originOf(mark)).toBe(wanted);
  });

  it('Windows notes it in lines', () => {
    const lines = [
      '[ZoneTransfer]',
      'ZoneId=3',
      'ReferrerUrl=https://packs.example/boats?id=7',
      'HostUrl=https://cdn.example/x.zip',
      '',
    ];
    const wanted = { page: 'https://packs.example/boats?id=7', file: 'https://cdn.example/x.zip' };
    for (const end of ['\r\n', '\n']) expect(zoneMark(lines.join(end))).toEqual(wanted);
    expect(zoneMark('[ZoneTransfer]\r\nZoneId=3\r\n')).toEqual({ page: undefined, file: undefined });
  });

  it('macOS notes it as a list', () => {
    const printed = '(\n    "https://cdn.example/x.zip",\n    "https://packs.example/boats"\n)';
    expect(whereFromsMark(printed)).toEqual({ file: 'https://cdn.example/x.zip', page: 'https://packs.example/boats' });
    expect(whereFromsMark('(null)')).toEqual({ file: undefined, page: undefined });
  });
});
