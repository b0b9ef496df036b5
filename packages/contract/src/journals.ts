import * as v from 'valibot';
import { AttachedFileSchema } from '@margin-lens/core';

/** A file and what it hangs on: a journal by its number, a document, or the one in the other; what is empty is any. */
export const JournalFileSchema = v.object({
  name: v.string(),
  sha256: v.string(),
  journal: v.string(),
  document: v.string(),
});
export type JournalFile = v.InferOutput<typeof JournalFileSchema>;

/** A kept file that is to hang on something. */
export const HangFileSchema = v.strictObject({
  name: v.pipe(v.string(), v.minLength(1), v.maxLength(500)),
  sha256: AttachedFileSchema.entries.sha256,
  journal: v.pipe(v.string(), v.maxLength(500)),
  document: v.pipe(v.string(), v.maxLength(500)),
});

export const JournalViewSchema = v.object({
  id: v.number(),
  entity: v.object({ code: v.string(), name: v.string() }),
  number: v.string(),
  kind: v.picklist(['normal', 'opening', 'closing']),
  fiscalYear: v.number(),
  currency: v.object({ code: v.string(), digits: v.number() }),
  /** Why it came late: its month had been closed, or a later month had been posted to. */
  lateBecause: v.nullable(v.picklist(['closed', 'later_month'])),
  /** The delivery that brought it, or the reason of a person who posted it by hand. */
  broughtBy: v.object({
    fileName: v.nullable(v.string()),
    reason: v.nullable(v.string()),
    person: v.string(),
    at: v.string(),
  }),
  /** Lines that may not be seen. */
  hiddenLines: v.number(),
  /** What the journal was posted from; the address is null where documents of its type have none. */
  documents: v.array(v.object({ document: v.string(), documentType: v.string(), address: v.nullable(v.string()) })),
  /** None for people who may not see all of its lines. */
  files: v.array(JournalFileSchema),
  lines: v.array(
    v.object({
      id: v.number(),
      line: v.number(),
      date: v.string(),
      account: v.string(),
      accountName: v.string(),
      debit: v.number(),
      credit: v.number(),
      currency: v.string(),
      currencyAmount: v.nullable(v.number()),
      quantity: v.number(),
      basis: v.string(),
      description: v.string(),
      document: v.string(),
      documentType: v.string(),
      /** Day on which an open item is due; empty where it is none. */
      due: v.string(),
      /** Document that the line settles. */
      settles: v.string(),
      localAccount: v.string(),
      sourceLine: v.number(),
      /** What the line carries; `text` is the value as people call it. */
      attributes: v.array(v.object({ name: v.string(), value: v.string(), text: v.string() })),
    }),
  ),
});
export type JournalView = v.InferOutput<typeof JournalViewSchema>;
