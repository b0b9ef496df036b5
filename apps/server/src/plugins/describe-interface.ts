import swagger from '@fastify/swagger';
import swaggerUi from '@fastify/swagger-ui';
import { toJsonSchema, toJsonSchemaDefs } from '@valibot/to-json-schema';
import * as contract from '@margin-lens/contract';
import { ColumnLayoutSchema, DocumentSchema, RowLayoutSchema, RowSchema } from '@margin-lens/core';
import fp from 'fastify-plugin';
import type { FastifyInstance, FastifySchema, RouteOptions } from 'fastify';
import { sample } from 'openapi-sampler';
import type * as v from 'valibot';
import { isValibot } from './valibot-fastify';

type Json = Record<string, unknown>;

/** What a field of that name may hold; what has no example here is sampled from its schema. */
const EXAMPLES: Record<string, unknown> = {
  as_at: '2026-08',
  scope: 'LMG',
  currency: 'EUR',
  account: '4000',
  from: '2026-04',
  to: '2026-08',
  id: 'income_statement',
  code: 'PLAN_FY27',
  version: 'PLAN_FY27',
  against: 'FORECAST_2',
  address: 'net_sales~year',
  cell: 'net_sales~year',
  statement: 'income_statement',
  q: 'gas',
  key: 'FY2027-P05',
  country: 'PL',
};

const ABOUT = `Everything that the application does, for programs. Answers are JSON; files come as they are named.
Amounts are whole minor units of their currency, debit positive, unless a field says otherwise.
A mistake is answered with a code that stays the same, a message, a hint, and the places that are wrong.`;

const REFUSED = {
  code: 'SRV_STATEMENT_UNKNOWN',
  message: 'There is no statement “profit”.',
  hint: 'Choose one of: income_statement, balance_sheet.',
  details: [],
};
const refusal = (description: string) => ({
  description,
  content: { 'application/json': { schema: { $ref: '#/components/schemas/ErrorReply' }, example: REFUSED } },
});
const REFUSALS = {
  '4XX': refusal('Refused: what is wrong, where, and what to do'),
  '5XX': refusal('Not done: nothing was begun, or it was taken back'),
};

const FILE = { type: 'string', format: 'binary' };
const UPLOAD = { type: 'object', required: ['file'], properties: { file: FILE } };

const OF_CORE = { ColumnLayoutSchema, DocumentSchema, RowLayoutSchema, RowSchema };

/** The schemas that core and contract give names to; `…Request` is what is asked where it differs from what is answered. */
function namedSchemas(): Record<string, v.GenericSchema> {
  const named = Object.entries({ ...contract, ...OF_CORE }).flatMap(([name, schema]) =>
    name.endsWith('Schema') && isValibot(schema) ? [[name.slice(0, -'Schema'.length), schema] as const] : [],
  );
  return Object.fromEntries(named);
}

const SETTINGS = { errorMode: 'ignore', target: 'openapi-3.0' } as const;

/** Points to the named schemas of the document instead of to definitions of its own; OpenAPI has no empty `required`. */
const relocate = <T>(schema: T): T =>
  JSON.parse(JSON.stringify(schema).replaceAll('"#/$defs/', '"#/components/schemas/'), (key, part: unknown) =>
    key === 'required' && Array.isArray(part) && part.length === 0 ? undefined : part,
  ) as T;

class Schemas {
  private readonly asked: Record<string, v.GenericSchema>;
  private readonly answered: Record<string, v.GenericSchema>;
  readonly components: Record<string, Json>;

  constructor() {
    const named = namedSchemas();
    const [input, output] = (['input', 'output'] as const).map((typeMode) =>
      relocate(toJsonSchemaDefs(named, { ...SETTINGS, typeMode })),
    ) as [Record<string, Json>, Record<string, Json>];
    const differs = (name: string) => JSON.stringify(input[name]) !== JSON.stringify(output[name]);
    this.answered = named;
    this.asked = Object.fromEntries(
      Object.entries(named).map(([name, schema]) => [differs(name) ? `${name}Request` : name, schema]),
    );
    const asked = relocate(toJsonSchemaDefs(this.asked, { ...SETTINGS, typeMode: 'input' }));
    this.components = { ...(asked as Record<string, Json>), ...output };
  }

  /** A schema of a route; parameters are spelt out, since each becomes one of its own. */
  convert(schema: unknown, where: 'parameters' | 'asked' | 'answered'): Json | undefined {
    if (!isValibot(schema)) return undefined;
    const typeMode = where === 'answered' ? 'output' : 'input';
    const definitions = where === 'parameters' ? {} : this[where];
    const {
      $schema: _1,
      $defs: _2,
      ...converted
    } = toJsonSchema(schema, { ...SETTINGS, typeMode, definitions }) as Json;
    return relocate(converted);
  }
}

let made: Schemas | undefined;
/** Made when somebody asks for the document, and the same for all. */
const allSchemas = () => (made ??= new Schemas());

/** Puts examples to the fields whose names say what they hold. */
function withExamples(schema: unknown): unknown {
  if (Array.isArray(schema)) return schema.map(withExamples);
  if (typeof schema !== 'object' || schema === null) return schema;
  const out = Object.fromEntries(Object.entries(schema).map(([key, part]) => [key, withExamples(part)])) as Json;
  for (const [name, field] of Object.entries((out['properties'] ?? {}) as Record<string, Json>)) {
    const isText = field['type'] === 'string' && !field['enum'] && !field['const'];
    if (isText && name in EXAMPLES) field['example'] = EXAMPLES[name];
  }
  return out;
}

/** What a route says of itself in the document, from its Valibot schemas. */
function describe(schema: FastifySchema = {}, route: RouteOptions): FastifySchema {
  const schemas = allSchemas();
  const { config } = route as { config?: { needs?: string } };
  const out: Json = { ...schema, description: `Right: ${config?.needs ?? 'nothing'}.` };
  for (const part of ['querystring', 'params', 'headers'] as const)
    if (schema[part]) out[part] = withExamples(schemas.convert(schema[part], 'parameters'));
  if (schema.body) out['body'] = schemas.convert(schema.body, 'asked');
  else if (schema.consumes) out['body'] = UPLOAD;
  const answers = Object.entries((schema.response ?? {}) as Record<string, unknown>).map(([status, part]) => {
    const description = status.startsWith('2') ? (schema.summary ?? 'Done') : 'Not modified';
    return [status, { description, ...schemas.convert(part, 'answered') }];
  });
  const file = schema.produces ? { 200: { description: schema.summary ?? '', ...FILE } } : {};
  out['response'] = { ...Object.fromEntries(answers), ...file, ...REFUSALS };
  return out as FastifySchema;
}

interface Document {
  paths?: Record<string, Record<string, Operation>>;
  components?: { schemas?: Record<string, unknown> };
}
interface Operation {
  requestBody?: Carries;
  responses?: Record<string, Carries>;
}
interface Carries {
  content?: Record<string, { schema?: object; example?: unknown }>;
}

/** Adds a whole example to every body that is asked or answered. */
function exemplify(document: Document): void {
  const operations = Object.values(document.paths ?? {}).flatMap((methods) => Object.values(methods));
  for (const { requestBody, responses = {} } of operations) {
    for (const carrier of [requestBody, ...Object.values(responses)]) {
      for (const media of Object.values(carrier?.content ?? {})) {
        if (media.schema && !('format' in media.schema))
          media.example ??= sample(media.schema, { quiet: true, maxSampleDepth: 8 }, document);
      }
    }
  }
}

/**
 * The interface in words that programs read: an OpenAPI 3.0 document at /api/docs/json, and pages of it at /api/docs.
 * Each feature is a tag; schemas of the contract keep their names.
 */
export const describeInterface = fp(async (app: FastifyInstance) => {
  await app.register(swagger, {
    openapi: {
      openapi: '3.0.3',
      info: { title: 'Margin Lens', version: '1', description: ABOUT },
      servers: [{ url: '/' }],
    },
    transform: ({ schema, url, route }) => ({ schema: describe(schema, route), url }),
    transformObject: (made) => {
      if (!('openapiObject' in made)) return made.swaggerObject;
      const document = made.openapiObject as Document;
      document.components = { ...document.components, schemas: withExamples(allSchemas().components) as Json };
      exemplify(document);
      return made.openapiObject;
    },
  });
  await app.register(swaggerUi, { routePrefix: '/api/docs' });
});
