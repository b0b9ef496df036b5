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

/** Ends a request that nobody waits for any more as any other is ended, so that what it holds is let go of. */
export const toNobody = (reply: FastifyReply): FastifyReply => reply.code(204).send(undefined);
