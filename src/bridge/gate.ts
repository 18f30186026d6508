import { timingSafeEqual } from 'node:crypto';
import { SatchelError } from '@/core';
import { KEY_HEADER } from './wire';

const OWN_NAMES = ['127.0.0.1', 'localhost', '[::1]'];

const secret = (): string => process.env.SATCHEL_SECRET ?? '';

function isSecret(given: string | null): boolean {
  const [a, b] = [Buffer.from(given ?? ''), Buffer.from(secret())];
  return b.length > 0 && a.length === b.length && timingSafeEqual(a, b);
}

const isOwnName = (request: Request): boolean =>
  OWN_NAMES.includes((request.headers.get('host') ?? '').replace(/:\d+$/, ''));

/**
 * Lets a request through that comes from this app's own page and brings the key. The page keeps the key for its own
 * origin, port included, and sends it as a header: a cookie would go to every port of this computer.
 *
 * @throws SatchelError `not-ours`, `bridge-closed`
 */
export function checkRequest(request: Request): void {
  // Another name for this computer could be pointed at it by any site.
  if (!isOwnName(request)) throw new SatchelError('not-ours', { why: 'it answers on 127.0.0.1 only' });
  const origin = request.headers.get('origin');
  if (origin !== null && origin !== `http://${request.headers.get('host')}`)
    throw new SatchelError('not-ours', { why: 'another site asked for this' });
  if (origin === null && request.method !== 'GET' && request.method !== 'HEAD')
    throw new SatchelError('not-ours', { why: 'changes are made by its own page only' });
  const site = request.headers.get('sec-fetch-site');
  if (site !== null && site !== 'same-origin' && site !== 'none')
    throw new SatchelError('not-ours', { why: 'another site asked for this' });
  if (!isSecret(request.headers.get(KEY_HEADER))) throw new SatchelError('bridge-closed');
}

const PAGE = `<!doctype html><html lang="en"><meta charset="utf-8"><title>Tidy Satchel</title>
<body style="font-family:sans-serif;max-width:40rem;margin:4rem auto;padding:0 1rem;line-height:1.5">
<h1>This address is from an earlier start</h1>
<p>Look at the window where you started Tidy Satchel, and open the address that it printed last. It holds a key that is new with each start.</p>
<p>Nothing in your game was changed.</p>`;

/**
 * Addresses as they were printed by earlier versions: they lead nowhere, and what they left in the browser is taken
 * away.
 */
export function oldAddress(): Response {
  return new Response(PAGE, {
    status: 410,
    headers: {
      'Content-Type': 'text/html; charset=utf-8',
      'Set-Cookie': 'satchel-key=; Max-Age=0; Path=/bridge',
      'Cache-Control': 'no-store',
      'Referrer-Policy': 'no-referrer',
      'X-Content-Type-Options': 'nosniff',
      'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'",
    },
  });
}
