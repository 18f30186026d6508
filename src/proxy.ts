import { NextResponse, type NextRequest } from 'next/server';

const DEVELOPING = process.env.NODE_ENV === 'development';

/** What a page may load: its own files, pictures that the worker drew, and wasm; nothing from elsewhere, no eval. */
function policy(nonce: string): string {
  return [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic' 'wasm-unsafe-eval'${DEVELOPING ? " 'unsafe-eval'" : ''}`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' blob: data:",
    "font-src 'self'",
    "media-src 'self' blob:",
    "connect-src 'self'",
    "worker-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'none'",
    "frame-ancestors 'none'",
  ].join('; ');
}

/** Answers only to this computer's own name, so that no other site can reach the app by pointing a name at it. */
export function proxy(request: NextRequest): NextResponse {
  const host = (request.headers.get('host') ?? '').replace(/:\d+$/, '');
  if (!['127.0.0.1', 'localhost', '[::1]'].includes(host))
    return new NextResponse('This app answers on 127.0.0.1 only.', { status: 403 });
  const nonce = btoa(crypto.randomUUID());
  const headers = new Headers(request.headers);
  headers.set('Content-Security-Policy', policy(nonce));
  const response = NextResponse.next({ request: { headers } });
  response.headers.set('Content-Security-Policy', policy(nonce));
  response.headers.set('X-Content-Type-Options', 'nosniff');
  response.headers.set('Referrer-Policy', 'no-referrer');
  return response;
}

/** The bridge has a gate of its own, and what goes through here is held in memory. */
export const config = { matcher: ['/((?!bridge/).*)'] };
