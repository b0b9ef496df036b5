import type { FastifyReply } from 'fastify';

/** Aborts when whoever asked goes away before the answer is there. */
export function goneSignal({ raw }: FastifyReply): AbortSignal {
  const gone = new AbortController();
  raw.once('close', () => {
    if (!raw.writableFinished) gone.abort();
  });
  return gone.signal;
}
