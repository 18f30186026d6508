/**
 * An answer that tells what happens line by line while it goes on, the last line how it ended.
 *
 * @param work tells its news as they come, and returns the last of them; it throws nothing
 * @param onGone nobody listens any more
 */
export function newsLines<T>(
  work: (tell: (news: T) => void) => Promise<T>,
  onGone: () => void = () => undefined,
): Response {
  const encoder = new TextEncoder();
  const stream = new ReadableStream<Uint8Array>({
    async start(controller) {
      const tell = (news: T) => {
        try {
          controller.enqueue(encoder.encode(`${JSON.stringify(news)}\n`));
        } catch {
          // Nobody listens any more: the request's signal stops the work.
        }
      };
      tell(await work(tell));
      try {
        controller.close();
      } catch {
        // It is closed already where nobody listens.
      }
    },
    cancel: onGone,
  });
  return new Response(stream, {
    headers: { 'Content-Type': 'application/x-ndjson', 'Cache-Control': 'no-store', 'X-Accel-Buffering': 'no' },
  });
}
