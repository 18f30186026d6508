import { connection } from 'next/server';

/** Of what the server was built; the page knows the same of itself. */
export async function GET(): Promise<Response> {
  await connection();
  return Response.json({ build: process.env.SATCHEL_BUILD }, { headers: { 'Cache-Control': 'no-store' } });
}
