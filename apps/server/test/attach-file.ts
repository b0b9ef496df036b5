import type { FastifyInstance } from 'fastify';
import type { AttachedFile } from '@margin-lens/core';

/** Sends a file as a browser does, so that it can be named afterwards. */
export async function attachFile(app: FastifyInstance, name: string, content: string): Promise<AttachedFile> {
  const payload = [
    ...['--x', `content-disposition: form-data; name="file"; filename="${name}"`, 'content-type: text/plain'],
    ...['', content, '--x--', ''],
  ].join('\r\n');
  const headers = { 'content-type': 'multipart/form-data; boundary=x' };
  return (await app.inject({ method: 'POST', url: '/api/v1/files', payload, headers })).json();
}
