import { connection } from 'next/server';

/**
 * Is a page of the build that the server is of? The status alone says it, so that the page has nothing to read: 204
 * where it is, 205 (Reset Content, RFC 9110, 15.3.6: load the page anew) where it is not. Neither is an error, which
 * browsers would note down at each question.
 */
export async function GET(request: Request): Promise<Response> {
  await connection();
  const same = new URL(request.url).searchParams.get('of') === process.env.SATCHEL_BUILD;
  return new Response(null, { status: same ? 204 : 205, headers: { 'Cache-Control': 'no-store' } });
}
