import { execFile } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import path from 'node:path';
import { promisify } from 'node:util';
import SwaggerParser from '@apidevtools/swagger-parser';
import type { FastifyInstance } from 'fastify';
import { buildApp } from '../app';
import { workspaceOf } from '../../test/tiny-package';

const ROOT = path.resolve(__dirname, '../../../..');
const run = promisify(execFile);
/** A program of somebody else that reads a statement, by types made from the document. */
const PROGRAM = `
import createClient from 'openapi-fetch';
import type { paths } from './interface';

const client = createClient<paths>({ baseUrl: process.argv[2]! });
const { data, error } = await client.GET('/api/v1/statements/{id}', {
  params: { path: { id: 'income_statement' }, query: { scope: 'ONE', as_at: '2026-02' } },
});
if (!data) throw new Error(error?.message);
const [row] = data.rows;
const label: string = row!.label;
// @ts-expect-error a statement has no such field, and the types know
data.nothing;
console.log(JSON.stringify({ name: data.name, label }));
`;

interface Carries {
  content?: Record<string, { schema: { format?: string }; example?: unknown }>;
}
interface Operation {
  operationId?: string;
  summary?: string;
  tags?: string[];
  responses: Record<string, Carries>;
  requestBody?: Carries;
}
interface Document {
  paths: Record<string, Record<string, Operation>>;
}

describe('the document of the interface', () => {
  let app: FastifyInstance;
  let document: Document;
  let folder: string;
  let operations: { at: string; operation: Operation }[];

  beforeAll(async () => {
    // inside the project, so that programs find its packages
    folder = await mkdtemp(path.join(ROOT, 'var', 'interface-'));
    app = await buildApp({ databaseFile: await workspaceOf(), webRoot: '/nonexistent' });
    document = (await app.inject('/api/docs/json')).json<Document>();
    operations = Object.entries(document.paths).flatMap(([url, methods]) =>
      Object.entries(methods).map(([method, operation]) => ({ at: `${method} ${url}`, operation })),
    );
  });
  afterAll(() => Promise.all([app.close(), rm(folder, { recursive: true })]));

  it('is valid for a validator that is not ours', async () => {
    const file = path.join(folder, 'interface.json');
    await writeFile(file, JSON.stringify(document));
    await expect(SwaggerParser.validate(file)).resolves.toMatchObject({ openapi: '3.0.3' });
  });

  it('says of every route its id, its part, what it does and how it refuses', () => {
    expect(operations.length).toBeGreaterThan(60);
    for (const { at, operation } of operations) {
      const { operationId, summary, tags, responses } = operation;
      expect({ at, id: /^[a-z]\w+$/.test(operationId ?? ''), tags: tags?.length }).toEqual({ at, id: true, tags: 1 });
      expect({ at, says: (summary ?? '').length > 10 }).toEqual({ at, says: true });
      expect(responses['4XX']?.content?.['application/json']?.example).toMatchObject({ code: expect.any(String) });
    }
    const ids = operations.map(({ operation }) => operation.operationId);
    expect(new Set(ids).size).toBe(ids.length);
  });

  it('shows an example of whatever is asked and answered but of files', () => {
    const without = operations.flatMap(({ at, operation: { requestBody, responses } }) =>
      [requestBody, ...Object.values(responses)]
        .flatMap((carrier) => Object.entries(carrier?.content ?? {}))
        .filter(([, { schema, example }]) => schema.format !== 'binary' && example === undefined)
        .map(() => at),
    );
    expect(without).toEqual([]);
  });

  it('makes a typed client that reads a statement', async () => {
    const [described, types, program] = ['interface.json', 'interface.d.ts', 'program.mts'].map((name) =>
      path.join(folder, name),
    ) as [string, string, string];
    await writeFile(described, JSON.stringify(document));
    await writeFile(program, PROGRAM);
    const node = (...args: string[]) => run(process.execPath, args, { cwd: ROOT });
    await node('node_modules/openapi-typescript/bin/cli.js', described, '-o', types);
    const strict = ['--strict', '--noEmit', '--skipLibCheck', '--module', 'esnext', '--moduleResolution', 'bundler'];
    await node('node_modules/typescript/bin/tsc', ...strict, '--target', 'es2022', '--types', 'node', program);
    await app.listen({ port: 0, host: '127.0.0.1' });
    const { port } = app.server.address() as AddressInfo;
    const { stdout } = await node('--import', 'tsx', program, `http://127.0.0.1:${port}`);
    expect(JSON.parse(stdout)).toEqual({ name: 'Income statement', label: 'Sales' });
  });
});
