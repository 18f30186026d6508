import { afterEach, describe, expect, it, vi } from 'vitest';
import { SatchelError } from '@/core';
import { checkRequest, oldAddress } from './gate';
import { KEY_HEADER } from './wire';

/* Who may ask the app's own server. Same-origin rules: WHATWG Fetch (Origin), W3C Fetch Metadata (Sec-Fetch-Site). */

const KEY = 'a-secret-of-this-start';
const HOST = '127.0.0.1:4640';
const ORIGIN = `http://${HOST}`;
afterEach(() => vi.unstubAllEnvs());

/** What becomes of a request. @param headers over those of the app's own page; undefined leaves one out */
function outcome(method: string, headers: Record<string, string | undefined> = {}, secret = KEY): string {
  vi.stubEnv('SATCHEL_SECRET', secret);
  const all = { host: HOST, origin: ORIGIN, [KEY_HEADER]: KEY, ...headers };
  const given = new Map(
    Object.entries(all).flatMap(([name, value]) => (value === undefined ? [] : [[name, value] as const])),
  );
  const request = {
    method,
    headers: { get: (name: string) => given.get(name.toLowerCase()) ?? null },
  } as unknown as Request;
  try {
    checkRequest(request);
    return 'let through';
  } catch (error) {
    return error instanceof SatchelError ? error.code : String(error);
  }
}

describe('the gate', () => {
  it.each(['GET', 'PUT', 'POST', 'DELETE'])('lets the app’s own page through (%s)', (method) => {
    expect(outcome(method)).toBe('let through');
    expect(outcome(method, { 'sec-fetch-site': 'same-origin' })).toBe('let through');
  });

  it.each(['localhost', 'localhost:80', '127.0.0.1', '[::1]:4640'])('knows this computer as %s', (host) => {
    expect(outcome('PUT', { host, origin: `http://${host}` })).toBe('let through');
  });

  it.each([
    'evil.example',
    'evil.example:4640',
    '127.0.0.1.evil.example',
    'localhost.evil.example',
    '192.168.0.7:4640',
    '',
    undefined,
  ])('refuses the name %s, by which a site could lead here', (host) => {
    expect(outcome('GET', { host, origin: host ? `http://${host}` : undefined })).toBe('not-ours');
  });

  it.each(['http://evil.example', 'null', 'https://127.0.0.1:4640', 'http://127.0.0.1:4641', 'http://127.0.0.1:46400'])(
    'refuses the origin %s',
    (origin) => {
      expect(outcome('GET', { origin })).toBe('not-ours');
      expect(outcome('PUT', { origin })).toBe('not-ours');
    },
  );

  it('lets reading go without an origin, as browsers send it, and changes not', () => {
    for (const method of ['GET', 'HEAD']) expect(outcome(method, { origin: undefined })).toBe('let through');
    for (const method of ['PUT', 'POST', 'DELETE', 'PATCH'])
      expect(outcome(method, { origin: undefined })).toBe('not-ours');
  });

  it.each(['cross-site', 'same-site'])('refuses what a browser says comes from elsewhere (%s)', (site) => {
    expect(outcome('GET', { origin: undefined, 'sec-fetch-site': site })).toBe('not-ours');
  });

  it('lets an address through that was typed', () => {
    expect(outcome('GET', { origin: undefined, 'sec-fetch-site': 'none' })).toBe('let through');
  });

  it.each(['', 'wrong', KEY.slice(1), `${KEY}x`, KEY.toUpperCase(), undefined])('refuses the key %s', (key) => {
    expect(outcome('GET', { [KEY_HEADER]: key })).toBe('bridge-closed');
    expect(outcome('PUT', { [KEY_HEADER]: key })).toBe('bridge-closed');
  });

  it('takes no cookie for a key, and no empty key where there is none', () => {
    expect(outcome('GET', { [KEY_HEADER]: undefined, cookie: `satchel-key=${KEY}` })).toBe('bridge-closed');
    expect(outcome('GET', { [KEY_HEADER]: '' }, '')).toBe('bridge-closed');
  });
});

it('an address of an earlier version says what to do, runs nothing, and takes the old cookie away', async () => {
  const answer = oldAddress();
  expect(answer.status).toBe(410);
  expect(answer.headers.get('set-cookie')).toMatch(/^satchel-key=; Max-Age=0; Path=\/bridge$/);
  expect(answer.headers.get('content-security-policy')).toContain("default-src 'none'");
  expect(await answer.text()).toContain('open the address that it printed last');
});
