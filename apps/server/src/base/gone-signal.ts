import type { FastifyReply } from 'fastify';

/** Aborts when whoever asked goes away before the answer is there, or has gone already. */
export function goneSignal({ raw }: FastifyReply): AbortSignal {
  const gone = new AbortController();
  const end = () => {
    if (!raw.writableFinished) gone.abort();
  };
  if (raw.destroyed) end();
  else raw.once('close', end);
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
    return signal.aborted ? toNobody(reply) : made;
  } catch (error) {
    if (!signal.aborted) throw error;
    return toNobody(reply);
  }
}

/** Ends a request that nobody waits for any more as any other is ended, so that what it holds is let go of. */
export const toNobody = (reply: FastifyReply): FastifyReply => reply.code(204).send(undefined);
