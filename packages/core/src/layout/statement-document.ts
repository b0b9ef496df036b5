import * as v from 'valibot';
import { ColumnLayoutSchema } from './column-layout';
import { RowLayoutSchema } from './row-layout';

/** A statement puts a row layout against a column layout; both are shared and named by id. */
export const StatementDocumentSchema = v.strictObject({
  schema: v.literal(1),
  kind: v.literal('statement'),
  id: v.pipe(v.string(), v.regex(/^[a-z][a-z0-9_]*$/)),
  name: v.pipe(v.string(), v.minLength(1)),
  rows: v.string(),
  columns: v.string(),
  unit: v.picklist([1, 1000, 1_000_000]),
});
export type StatementDocument = v.InferOutput<typeof StatementDocumentSchema>;

/** Any document that a workspace keeps. */
export const DocumentSchema = v.variant('kind', [RowLayoutSchema, ColumnLayoutSchema, StatementDocumentSchema]);
export type Document = v.InferOutput<typeof DocumentSchema>;
