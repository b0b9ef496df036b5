import type { FastifySchemaCompiler, FastifyTypeProvider } from 'fastify';
import type { FastifySerializerCompiler } from 'fastify/types/schema';
import * as v from 'valibot';
import { appError } from '../base/app-error';
import { problemOfJson } from '../safety/check-json';

/** Places that are wrong in a request: those said in its message, and those listed with it. */
const PLACES_IN_WORDS = 3;
const PLACES_AT_MOST = 50;

/** Types of routes from their Valibot schemas. */
export interface ValibotTypeProvider extends FastifyTypeProvider {
  validator: this['schema'] extends v.GenericSchema ? v.InferOutput<this['schema']> : unknown;
  serializer: this['schema'] extends v.GenericSchema ? v.InferInput<this['schema']> : unknown;
}

export const isValibot = (schema: unknown): schema is v.GenericSchema =>
  typeof schema === 'object' && schema !== null && (schema as { kind?: string }).kind === 'schema';

export const validatorCompiler: FastifySchemaCompiler<v.GenericSchema> =
  ({ schema }) =>
  (input) => {
    const hidden = problemOfJson(input);
    if (hidden) return { error: appError('SRV_REQUEST_INVALID', { problem: hidden }) };
    const parsed = v.safeParse(schema, input);
    if (parsed.success) return { value: parsed.output };
    const places = parsed.issues.map((found) => `${v.getDotPath(found) ?? 'it'}: ${found.message}`.slice(0, 300));
    const problem = places.slice(0, PLACES_IN_WORDS).join('; ');
    return { error: appError('SRV_REQUEST_INVALID', { problem }, places.slice(0, PLACES_AT_MOST)) };
  };

/** Checks what is sent, and drops fields that the schema does not name. */
export const serializerCompiler: FastifySerializerCompiler<v.GenericSchema> =
  ({ schema }) =>
  (reply) =>
    JSON.stringify(v.parse(schema, reply));
