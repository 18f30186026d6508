import { timingSafeEqual } from 'node:crypto';

const COOKIE = 'satchel-key';
const OWN_NAMES = ['127.0.0.1', 'localhost', '[::1]'];

const secret = (): string => process.env.SATCHEL_SECRET ?? '';

function isSecret(given: string | undefined): boolean {
  const [a, b] = [Buffer.from(given ?? ''), Buffer.from(secret())];
  return b.length > 0 && a.length === b.length && timingSafeEqual(a, b);
}

const deny = (status: number, why: string): Response => new Response(why, { status, headers: { 'Content-Type': 'text/plain; charset=utf-8', 'X-Content-Type-Options': 'nosniff' } });

function cookieOf(request: Request): string | undefined {
  for (const one of (request.headers.get('cookie') ?? '').split(/;\s*/)) if (one.startsWith(`${COOKIE}=`)) return one.slice(COOKIE.length + 1);
  return undefined;
}

/**
 * Lets a request through that comes from this app's own page in a browser that knows the secret.
 *
 * @returns the refusal, or undefined
 */
export function refusal(request: Request): Response | undefined {
  const host = request.headers.get('host') ?? '';
  // Another name for this computer could be pointed at it by any site.
  if (!OWN_NAMES.includes(host.replace(/:\d+$/, ''))) return deny(403, 'This app answers on 127.0.0.1 only.');
  const origin = request.headers.get('origin');
  if (origin !== null && origin !== `http://${host}`) return deny(403, 'Another site asked for this.');
  if (origin === null && request.method !== 'GET' && request.method !== 'HEAD') return deny(403, 'Changes are made by the app’s own page only.');
  const site = request.headers.get('sec-fetch-site');
  if (site !== null && site !== 'same-origin' && site !== 'none') return deny(403, 'Another site asked for this.');
  if (!isSecret(cookieOf(request))) return deny(401, 'Open the address that was printed when the app was started.');
  return undefined;
}

/** The address that is printed at the start: gives the browser the secret as a cookie and leads on to the app. */
export function openDoor(request: Request): Response {
  const url = new URL(request.url);
  const host = request.headers.get('host') ?? '';
  if (!OWN_NAMES.includes(host.replace(/:\d+$/, ''))) return deny(403, 'This app answers on 127.0.0.1 only.');
  if (!isSecret(url.searchParams.get('key') ?? undefined)) return deny(401, 'This address is from an earlier start. Use the one that was printed last.');
  return new Response(null, { status: 303, headers: { Location: '/?door', 'Set-Cookie': `${COOKIE}=${secret()}; HttpOnly; SameSite=Strict; Path=/bridge`, 'Cache-Control': 'no-store', 'Referrer-Policy': 'no-referrer' } });
}
