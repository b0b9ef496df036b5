// npm run docs: writes the documents that are made from the code: error codes, and the JSON Schemas of documents.
import { mkdirSync, writeFileSync } from 'node:fs';
import { toJsonSchema } from '@valibot/to-json-schema';
import { errorsDocument } from '../apps/server/src/errors-document';
import {
  AllocationDocumentSchema,
  CompletionDocumentSchema,
  PlanTemplateSchema,
  PackDocumentSchema,
  BreakdownDocumentSchema,
  ColumnLayoutSchema,
  RowLayoutSchema,
  StatementDocumentSchema,
  WorkspaceSettingsSchema,
} from '../packages/core/src/index';

mkdirSync('docs/schemas', { recursive: true });
writeFileSync('docs/errors.md', errorsDocument());
for (const [name, schema] of Object.entries({
  'row-layout': RowLayoutSchema,
  'column-layout': ColumnLayoutSchema,
  statement: StatementDocumentSchema,
  allocation: AllocationDocumentSchema,
  completion: CompletionDocumentSchema,
  'plan-template': PlanTemplateSchema,
  pack: PackDocumentSchema,
  breakdown: BreakdownDocumentSchema,
  workspace: WorkspaceSettingsSchema,
})) {
  writeFileSync(
    `docs/schemas/${name}.schema.json`,
    `${JSON.stringify(toJsonSchema(schema, { errorMode: 'ignore', typeMode: 'input' }), null, 2)}\n`,
  );
}
