import * as v from 'valibot';
import { ContextSchema } from '@margin-lens/contract';
import { CHART_COLUMNS, readRowOrder } from '@margin-lens/core';
import { remarksView } from '../remarks/remarks-service';
import { openKept } from '../statements/open-statement';
import type { Snapshot } from '../workspace/snapshot';
import { filePartsOf, type FileParts } from './export-statement';

export const ExportSchema = v.object({
  ...ContextSchema.entries,
  format: v.picklist(['xlsx', 'csv', 'json', 'pdf']),
  /** Has the remarks of the month go along, below the table. */
  remarks: v.exactOptional(v.literal('1')),
  /** Has the months of a row go along as charts, above the table; columns are then those of charts. */
  chart: v.exactOptional(v.string()),
  /** Has lines stand in order of a column, as `column:largest` or `column:smallest`. */
  sorted: v.exactOptional(v.pipe(v.string(), v.regex(/^.+:(largest|smallest)$/))),
  unit: v.exactOptional(v.pipe(v.picklist(['1', '1000', '1000000']), v.transform(Number))),
});

/** What a kept statement is written to a file from, with what is asked to go along. */
export async function statementFile(
  snapshot: Snapshot,
  id: string,
  { format, unit, remarks, chart, sorted, ...context }: v.InferOutput<typeof ExportSchema>,
): Promise<FileParts> {
  const opened = await openKept(snapshot, id, { ...context, ...(chart !== undefined && { columns: CHART_COLUMNS }) });
  const { code } = opened.scope;
  const asked = { scope: code, as_at: opened.source.at.key, statement: opened.document.id };
  const going = remarks ? (await remarksView(snapshot, asked)).remarks : [];
  return filePartsOf(opened, { format, unit, remarks: going, chart, order: readRowOrder(sorted) });
}
