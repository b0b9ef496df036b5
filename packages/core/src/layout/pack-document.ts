import * as v from 'valibot';
import { COLUMN_BASES, ORGANISED } from '../books/books-selection';
import { DimensionConditionSchema } from '../cube/dimension-condition';
import { EXCEPTION_SPANS } from '../period/span';
import { QuoteSchema } from './quote';
import { ReaderChoicesSchema } from './statement-document';
import { TextBodySchema } from './text-body';
import { nameText, shortText } from './text-limits';

/** Pages of a pack, figures of a page of single ones, lines of a cover, and figures that a text quotes, at most. */
const MOST_PAGES = 200;
const MOST_TILES = 24;
const MOST_LINES = 20;
const MOST_QUOTES = 200;

const UNITS = [1, 1000, 1_000_000] as const;

/** In what a page is read in another way than its pack. */
const DiffersSchema = v.strictObject({
  scope: v.optional(v.string()),
  currency: v.optional(v.pipe(v.string(), v.regex(/^[A-Z]{3}$/))),
  version: v.optional(v.string()),
  against: v.optional(v.string()),
  where: v.optional(v.array(DimensionConditionSchema)),
  allocation: v.optional(v.string()),
  organised: v.optional(v.picklist(ORGANISED)),
  basis: v.optional(v.picklist(COLUMN_BASES)),
  unit: v.optional(v.picklist(UNITS)),
});
export type PageDiffers = v.InferOutput<typeof DiffersSchema>;

const pageEntries = {
  id: v.pipe(v.string(), v.regex(/^[a-z][a-z0-9_]*$/)),
  /** That of what it shows where it is left out. */
  title: v.optional(shortText),
  orientation: v.optional(v.picklist(['portrait', 'landscape'])),
  /** Stands below the page before it, as far as that leaves room, and not on a sheet of its own. */
  follows: v.optional(v.literal(true)),
  differs: v.optional(DiffersSchema),
};

const TileSchema = v.strictObject({
  /** Id of the statement or breakdown, and `row~column` in it. */
  of: v.string(),
  cell: v.string(),
  columns: v.optional(v.string()),
  /** The label of its row where it is left out. */
  label: v.optional(shortText),
});

/** A figure in a text: of which statement, and for whom and as at when it was written; elsewhere it has not moved, it is another. */
const PackQuoteSchema = v.strictObject({
  ...QuoteSchema.entries,
  of: v.string(),
  at: v.strictObject({ scope: v.string(), as_at: v.string() }),
});

export const PackPageSchema = v.variant('kind', [
  v.strictObject({
    ...{ kind: v.literal('cover'), ...pageEntries },
    lines: v.optional(v.pipe(v.array(shortText), v.maxLength(MOST_LINES))),
  }),
  v.strictObject({ kind: v.literal('contents'), ...pageEntries }),
  /** Heads the pages that follow, and has a sheet of its own where something is written on it. */
  v.strictObject({ kind: v.literal('section'), ...pageEntries, says: v.optional(shortText) }),
  /** A statement or a breakdown. */
  v.strictObject({
    ...{ kind: v.literal('figures'), ...pageEntries },
    of: v.string(),
    /** Those of the statement where it is left out. */
    columns: v.optional(v.string()),
    /** Has the remarks of the month go along. */
    remarks: v.optional(v.literal(true)),
  }),
  /** The months of a row of a statement, or what a breakdown is drawn as. */
  v.strictObject({ kind: v.literal('chart'), ...pageEntries, of: v.string(), row: v.optional(v.string()) }),
  /** Variances of a statement beyond the limits, with what was remarked on them. */
  v.strictObject({
    ...{ kind: v.literal('exceptions'), ...pageEntries },
    of: v.string(),
    span: v.optional(v.picklist(EXCEPTION_SPANS)),
  }),
  /** A result without what does not come again, and its variance by what remarks say of it. */
  v.strictObject({
    ...{ kind: v.literal('underlying'), ...pageEntries },
    of: v.string(),
    span: v.optional(v.picklist(EXCEPTION_SPANS)),
  }),
  /** Balances held against figures from outside the ledger: all of them, or those that are open or differ. */
  v.strictObject({ ...{ kind: v.literal('balances'), ...pageEntries }, only: v.optional(v.literal('open')) }),
  /** Single figures, large. */
  v.strictObject({
    ...{ kind: v.literal('tiles'), ...pageEntries },
    tiles: v.pipe(v.array(TileSchema), v.maxLength(MOST_TILES)),
  }),
  /** A page of another pack, as it stands there. */
  v.strictObject({ ...{ kind: v.literal('shared'), ...pageEntries }, pack: v.string(), page: v.string() }),
  v.strictObject({
    ...{ kind: v.literal('text'), ...pageEntries },
    body: TextBodySchema,
    /** Figures in the text. */
    quotes: v.optional(v.pipe(v.array(PackQuoteSchema), v.maxLength(MOST_QUOTES))),
  }),
]);
export type PackPage = v.InferOutput<typeof PackPageSchema>;
export type PackPageKind = PackPage['kind'];

/** A reporting pack: pages in an order, read in one context. It holds definitions and never figures. */
export const PackDocumentSchema = v.strictObject({
  schema: v.literal(1),
  kind: v.literal('pack'),
  id: v.pipe(v.string(), v.regex(/^[a-z][a-z0-9_]*$/)),
  name: nameText,
  note: v.optional(shortText),
  archived: v.optional(v.boolean()),
  /** Folder of the list that it stands in; none where it is left out. */
  folder: v.optional(v.pipe(v.string(), v.trim(), v.minLength(1), v.maxLength(60))),
  /** What it opens with, and what of that its readers may change. */
  readers: v.optional(ReaderChoicesSchema),
  /** What money is read in; as each statement has it where it is left out. */
  unit: v.optional(v.picklist(UNITS)),
  /** Upright, lying, or as what stands on it fits. */
  orientation: v.optional(v.picklist(['portrait', 'landscape'])),
  header: v.optional(shortText),
  footer: v.optional(shortText),
  pages: v.pipe(
    v.array(PackPageSchema),
    v.maxLength(MOST_PAGES),
    v.check((pages) => new Set(pages.map(({ id }) => id)).size === pages.length, 'each page has an id of its own'),
  ),
});
export type PackDocument = v.InferOutput<typeof PackDocumentSchema>;
