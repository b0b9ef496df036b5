import * as v from 'valibot';

/** Blocks, pieces of one, and characters of a piece, at most. */
const MOST_BLOCKS = 500;
const MOST_PIECES = 1000;
const LONGEST_PIECE = 10_000;

const MarkSchema = v.strictObject({ type: v.picklist(['bold', 'italic']) });

const PieceSchema = v.variant('type', [
  v.strictObject({
    type: v.literal('text'),
    text: v.pipe(v.string(), v.minLength(1), v.maxLength(LONGEST_PIECE)),
    marks: v.optional(v.array(MarkSchema)),
  }),
  /** A figure that is quoted, by the key of its quote. */
  v.strictObject({
    type: v.literal('figure'),
    attrs: v.strictObject({ key: v.string() }),
    marks: v.optional(v.array(MarkSchema)),
  }),
  v.strictObject({ type: v.literal('hardBreak'), marks: v.optional(v.array(MarkSchema)) }),
]);
export type TextPiece = v.InferOutput<typeof PieceSchema>;

const pieces = v.optional(v.pipe(v.array(PieceSchema), v.maxLength(MOST_PIECES)));

interface Paragraph {
  type: 'paragraph';
  content?: TextPiece[] | undefined;
}

interface Heading {
  type: 'heading';
  attrs: { level: 2 | 3 };
  content?: TextPiece[] | undefined;
}

/** A list, of items that may hold lists of their own. */
export interface TextList {
  type: 'bulletList' | 'orderedList';
  attrs?: { start?: number | undefined; type?: string | null | undefined } | undefined;
  content: { type: 'listItem'; content: (Paragraph | TextList)[] }[];
}

/** Written text as its editor keeps it: headings, paragraphs and lists. */
export interface TextBody {
  type: 'doc';
  content: (Paragraph | Heading | TextList)[];
}

const ParagraphSchema = v.strictObject({ type: v.literal('paragraph'), content: pieces });
const HeadingSchema = v.strictObject({
  type: v.literal('heading'),
  attrs: v.strictObject({ level: v.picklist([2, 3]) }),
  content: pieces,
});
const ListSchema: v.GenericSchema<unknown, TextList> = v.strictObject({
  type: v.picklist(['bulletList', 'orderedList']),
  attrs: v.optional(v.strictObject({ start: v.optional(v.number()), type: v.optional(v.nullable(v.string())) })),
  content: v.pipe(
    v.array(
      v.strictObject({
        type: v.literal('listItem'),
        content: v.array(v.union([ParagraphSchema, v.lazy(() => ListSchema)])),
      }),
    ),
    v.maxLength(MOST_BLOCKS),
  ),
});

export const TextBodySchema: v.GenericSchema<unknown, TextBody> = v.strictObject({
  type: v.literal('doc'),
  content: v.pipe(v.array(v.union([ParagraphSchema, HeadingSchema, ListSchema])), v.maxLength(MOST_BLOCKS)),
});
