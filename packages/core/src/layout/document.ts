import * as v from 'valibot';
import { AllocationDocumentSchema, type AllocationDocument } from './allocation-document';
import { BreakdownDocumentSchema, type BreakdownDocument } from './breakdown-document';
import { CompletionDocumentSchema, type CompletionDocument } from './completion-document';
import { ColumnLayoutSchema, type ColumnLayout } from './column-layout';
import { PlanTemplateSchema, type PlanTemplate } from './plan-template-document';
import { PackDocumentSchema, type PackDocument } from './pack-document';
import { RowLayoutSchema, type RowLayout } from './row-layout';
import { StatementDocumentSchema, type StatementDocument } from './statement-document';

export type Document =
  | RowLayout
  | ColumnLayout
  | StatementDocument
  | BreakdownDocument
  | AllocationDocument
  | CompletionDocument
  | PlanTemplate
  | PackDocument;

/** Any document that a workspace keeps. */
export const DocumentSchema: v.GenericSchema<unknown, Document> = v.variant('kind', [
  RowLayoutSchema,
  ColumnLayoutSchema,
  StatementDocumentSchema,
  BreakdownDocumentSchema,
  AllocationDocumentSchema,
  CompletionDocumentSchema,
  PlanTemplateSchema,
  PackDocumentSchema,
]);
export type DocumentKind = Document['kind'];
export const DOCUMENT_KINDS = [
  'row_layout',
  'column_layout',
  'statement',
  'breakdown',
  'allocation',
  'completion',
  'plan_template',
  'pack',
] as const;

/** Folders in which a package has its documents, by their kinds. */
export const DOCUMENT_FOLDERS: Readonly<Record<DocumentKind, string>> = {
  row_layout: 'layouts',
  column_layout: 'layouts',
  statement: 'statements',
  breakdown: 'breakdowns',
  allocation: 'allocations',
  completion: 'completions',
  plan_template: 'plan-templates',
  pack: 'packs',
};

/** What shows figures by itself: a statement or a breakdown. Their ids are told apart from each other, too. */
export type FiguresPage = StatementDocument | BreakdownDocument;
export const isFiguresPage = (document: Document): document is FiguresPage =>
  document.kind === 'statement' || document.kind === 'breakdown';

/** What opens by itself and stands in folders; ids are told apart among all of it. */
export type Shelved = FiguresPage | PackDocument;
export const isShelved = (document: Document): document is Shelved =>
  isFiguresPage(document) || document.kind === 'pack';
