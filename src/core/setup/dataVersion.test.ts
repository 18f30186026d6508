import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { MemoryFolder } from '../../../tests/support/memoryFolder';
import { readBytes } from '../folder';
import { DATA_VERSION, checkVault, checkVersion } from './dataVersion';

const text = (value: string) => new TextEncoder().encode(value);
const written = async (folder: MemoryFolder) =>
  JSON.parse(new TextDecoder().decode(await readBytes(folder, 'version.json'))) as unknown;

describe('the version of what is remembered', () => {
  it('is refused where it is higher than this app’s, or nothing that this app ever wrote', () => {
    fc.assert(
      fc.property(fc.integer({ min: DATA_VERSION + 1 }), (version) => {
        expect(() => checkVersion(version, 'it')).toThrow(/newer version of this app wrote it/);
      }),
    );
    for (const nonsense of [-1, 0.5, '1', {}, [], true, Number.NaN])
      expect(() => checkVersion(nonsense, 'it')).toThrow(/newer version/);
    expect(checkVersion(undefined, 'it')).toBe(0);
    expect(checkVersion(DATA_VERSION, 'it')).toBe(DATA_VERSION);
  });

  it('of what is kept of a game: an older one is brought up, a newer one is left as it is, byte for byte', async () => {
    const vault = new MemoryFolder();
    await vault.write('state.json', text('{"files":[]}'));
    await checkVault(vault, 'Old Quay', true);
    expect(await vault.stat('version.json')).toBeUndefined();
    await checkVault(vault, 'Old Quay', false);
    expect(await written(vault)).toEqual({ version: DATA_VERSION });
    for (const newer of ['{"version":2}', '{ "version": 99, "more": [] }', '{"version":"two"}']) {
      await vault.write('version.json', text(newer));
      await expect(checkVault(vault, 'Old Quay', false)).rejects.toThrow('what is kept of “Old Quay”');
      expect(new TextDecoder().decode(await readBytes(vault, 'version.json'))).toBe(newer);
    }
  });

  it('that was cut off while it was written for the first time is written again', async () => {
    const vault = new MemoryFolder();
    await vault.write('version.json', text('{"ver'));
    await checkVault(vault, 'Old Quay', false);
    expect(await written(vault)).toEqual({ version: DATA_VERSION });
  });
});
