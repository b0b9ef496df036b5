import type { FastifyReply } from 'fastify';

/** Aborts when whoever asked goes away before the answer is there. */
export function goneSignal({ raw }: FastifyReply): AbortSignal {
  const gone = new AbortController();
  raw.once('close', () => {
    if (!raw.writableFinished) gone.abort();
  });
  return gone.signal;
}

/** What a work answers, or nothing where it was stopped because nobody is there any more. */
export async function unlessGone<T>(
  reply: FastifyReply,
  signal: AbortSignal,
  work: () => Promise<T>,
): Promise<T | FastifyReply> {
  try {
    const made = await work();
    return signal.aborted ? reply.hijack() : made;
  } catch (error) {
    if (!signal.aborted) throw error;
    return reply.hijack();
  }
}
