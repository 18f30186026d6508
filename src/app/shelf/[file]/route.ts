import { openDownload } from '@/demo/shelfFiles';

/** The stand-in for a download page: serves the demo's archives. */
export async function GET(_request: Request, { params }: { params: Promise<{ file: string }> }): Promise<Response> {
  const found = await openDownload((await params).file);
  if (!found) return new Response('There is no such download on the shelf.', { status: 404 });
  return new Response(found.stream, {
    headers: { 'Content-Type': found.type, 'Content-Length': String(found.size), 'Cache-Control': 'no-store' },
  });
}
