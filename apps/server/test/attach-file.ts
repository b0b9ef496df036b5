import type { FastifyInstance } from 'fastify';
import type { AttachedFile } from '@margin-lens/core';

/** Sends a file as a browser does, so that it can be named afterwards. */
export const attachFile = (app: FastifyInstance, name: string, content: string): Promise<AttachedFile> =>
  sendFile(app, '/files', name, content);

/** Sends a file to a place of the interface as a browser does. */
export async function sendFile<T>(app: FastifyInstance, url: string, name: string, content: string): Promise<T> {
  const payload = [
    ...['--x', `content-disposition: form-data; name="file"; filename="${name}"`, 'content-type: text/plain'],
    ...['', content, '--x--', ''],
  ].join('\r\n');
  const headers = { 'content-type': 'multipart/form-data; boundary=x' };
  return (await app.inject({ method: 'POST', url: `/api/v1${url}`, payload, headers })).json<T>();
}
