import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { NextRequest } from 'next/server';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { openDownload } from '@/demo/shelfFiles';
import { proxy } from '@/proxy';
import { temporaryFolder } from './support/tools';

const ask = (host: string) => proxy(new NextRequest('http://127.0.0.1:4640/', { headers: { host } }));
const policyOf = (host = '127.0.0.1:4640') => ask(host).headers.get('Content-Security-Policy') ?? '';

describe('every page’s headers', () => {
  it('allow no eval, no foreign address, no frame (W3C Content Security Policy Level 3)', () => {
    vi.stubEnv('NODE_ENV', 'production');
    const rules: Record<string, string[]> = Object.fromEntries(
      policyOf()
        .split('; ')
        .map((rule) => [rule.split(' ')[0] ?? '', rule.split(' ').slice(1)]),
    );
    expect(rules['default-src']).toEqual(["'self'"]);
    expect(rules['script-src']).not.toContain("'unsafe-eval'");
    expect(rules['script-src']).not.toContain("'unsafe-inline'");
    expect(rules['connect-src']).toEqual(["'self'"]);
    expect(rules['object-src']).toEqual(["'none'"]);
    expect(rules['frame-ancestors']).toEqual(["'none'"]);
    for (const sources of Object.values(rules))
      for (const source of sources) expect(source).toMatch(/^'|^(blob|data):$/);
  });

  it('carry a nonce that is never the same', () => {
    const nonces = Array.from({ length: 50 }, () => /'nonce-([^']+)'/.exec(policyOf())?.[1]);
    expect(new Set(nonces).size).toBe(50);
    expect(nonces[0]?.length).toBeGreaterThan(20);
  });

  it.each([
    'evil.example',
    'evil.example:4640',
    '127.0.0.1.evil.example',
    'localhost.evil.example:80',
    '192.168.0.7:4640',
    '',
  ])('answer nothing to the name “%s”', (host) => {
    expect(ask(host).status).toBe(403);
  });

  it.each(['127.0.0.1', '127.0.0.1:4640', 'localhost:4640', '[::1]:4640'])('answer to this computer as %s', (host) => {
    expect(ask(host).status).toBe(200);
  });
});

describe('the shelf', () => {
  afterEach(() => vi.restoreAllMocks());

  it.each([
    '../../package.json',
    '..%2f..%2fpackage.json',
    'a/b.zip',
    '.hidden.zip',
    '/etc/passwd',
    'gullwick.zip\u0000',
    'x.txt',
    '',
    'UPPER.zip',
    '%2e%2e.zip',
  ])('has no download “%s”', async (name) => {
    expect(await openDownload(name)).toBeUndefined();
  });

  it('streams a file of its own folder with its size', async () => {
    // The module looked up its folder when it was loaded, so a copy is loaded from another place.
    const place = temporaryFolder();
    mkdirSync(path.join(place, '.satchel/demo'), { recursive: true });
    writeFileSync(path.join(place, '.satchel/demo/one.zip'), 'twelve bytes');
    vi.spyOn(process, 'cwd').mockReturnValue(place);
    vi.resetModules();
    const { openDownload: open } = await import('@/demo/shelfFiles');
    const found = await open('one.zip');
    expect(found).toMatchObject({ size: 12, type: 'application/zip' });
    expect(await new Response(found?.stream).text()).toBe('twelve bytes');
    expect(await open('two.zip')).toBeUndefined();
  });
});
