/** Kinds of files that figures go out as. */
export type ExportFormat = 'xlsx' | 'csv' | 'json' | 'pdf';

/** What each says it is in an answer. */
export const EXPORT_TYPES: Record<ExportFormat, string> = {
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  csv: 'text/csv; charset=utf-8',
  json: 'application/json; charset=utf-8',
  pdf: 'application/pdf',
};

/** The header by which a browser keeps an answer as a file of a name. */
export const attachment = (name: string): string => `attachment; filename="${name.replace(/[^\w.-]+/g, '-')}"`;
