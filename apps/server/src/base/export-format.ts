/** Kinds of files that figures go out as. */
export type ExportFormat = 'xlsx' | 'csv' | 'json' | 'pdf';

/** What each says it is in an answer. */
export const EXPORT_TYPES: Record<ExportFormat, string> = {
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  csv: 'text/csv; charset=utf-8',
  json: 'application/json; charset=utf-8',
  pdf: 'application/pdf',
};
