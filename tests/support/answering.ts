import type { Ask } from '../../src/folders/bridge';

/** What is asked of a server, and how it answers. */
export function answering(...answers: (Response | (() => Response))[]) {
  const asked: { address: string; options: RequestInit | undefined }[] = [];
  const instead: Ask = async (address, options) => {
    asked.push({ address, options });
    const answer = answers.shift();
    if (!answer) throw new Error('nobody answers');
    return typeof answer === 'function' ? answer() : answer;
  };
  return { asked, instead };
}
/** A refusal as the server says it. */
export const refusal = (code: string, details = {}) =>
  Response.json({ failure: { code, says: 'x', next: 'y', details } }, { status: 409 });
/** An answer that breaks off in the middle. */
export const broken = (begun = '') =>
  new Response(
    new ReadableStream({
      start: (controller) => {
        if (begun !== '') controller.enqueue(new TextEncoder().encode(begun));
      },
      pull: (controller) => controller.error(new Error('the line is dead')),
    }),
  );

/** An answer that tells what happens line by line. */
export const lines = (...all: unknown[]) => new Response(all.map((line) => `${JSON.stringify(line)}\n`).join(''));
