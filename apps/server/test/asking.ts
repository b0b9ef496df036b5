import type { FastifyInstance } from 'fastify';

export type Method = 'GET' | 'POST' | 'PUT' | 'DELETE';

/** Asks an application's API and reads its reply; the application is that of the moment, since each test has its own. */
export function asking(app: () => FastifyInstance) {
  return async <T>(method: Method, url: string, payload?: object): Promise<{ status: number; body: T }> => {
    const reply = await app().inject({ method, url: `/api/v1${url}`, ...(payload ? { payload } : {}) });
    return { status: reply.statusCode, body: reply.body === '' ? (undefined as T) : reply.json<T>() };
  };
}
