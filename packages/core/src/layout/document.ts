import * as v from 'valibot';
import { BreakdownDocumentSchema, type BreakdownDocument } from './breakdown-document';
import { ColumnLayoutSchema } from './column-layout';
import { RowLayoutSchema } from './row-layout';
import { StatementDocumentSchema, type StatementDocument } from './statement-document';

/** Any document that a workspace keeps. */
export const DocumentSchema = v.variant('kind', [
  RowLayoutSchema,
  ColumnLayoutSchema,
  StatementDocumentSchema,
  BreakdownDocumentSchema,
]);
export type Document = v.InferOutput<typeof DocumentSchema>;
export type DocumentKind = Document['kind'];
export const DOCUMENT_KINDS = ['row_layout', 'column_layout', 'statement', 'breakdown'] as const;

/** What shows figures by itself: a statement or a breakdown. Their ids are told apart from each other, too. */
export type FiguresPage = StatementDocument | BreakdownDocument;
export const isFiguresPage = (document: Document): document is FiguresPage =>
  document.kind === 'statement' || document.kind === 'breakdown';
