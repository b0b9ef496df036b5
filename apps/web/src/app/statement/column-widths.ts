import type { ColumnHeadView } from '@margin-lens/contract';

/** Natural widths of what stands beside the figures, in pixels. */
export const WIDTH = { label: 158, bar: 32, gap: 12 } as const;
/** Of values that are told apart, and of the axes over them. */
export const WIDE_LABEL = 196; // 158 to 260

const DIGIT = 7.3;
const SIGN = 4.2;
const HEAD_LETTER = 6.8;
const NOTE_LETTER = 4.8;
const PADDING = 10;

const textWidth = (text: string) => {
  const digits = text.replace(/[^\p{L}\p{N}–]/gu, '').length;
  return DIGIT * digits + SIGN * (text.length - digits);
};

/** What of a note stands on a line: it is broken between its parts alone. */
export const noteParts = (note: string): string[] =>
  note.split(', ').map((part, at, all) => (at < all.length - 1 ? `${part},` : part));

/**
 * Least widths in which the figures of each column can be read, so that none is ever cut off.
 *
 * Shape: one width in pixels per column; columns of one kind share theirs, so that a series stands in an even beat.
 */
export function columnWidths(
  heads: readonly (Pick<ColumnHeadView, 'label' | 'note'> & { kind: string })[],
  texts: readonly (readonly string[])[],
): number[] {
  const natural = heads.map(({ label, note }, index) =>
    Math.ceil(
      PADDING +
        Math.max(
          ...texts.map((row) => textWidth(row[index] ?? '')),
          ...label.split(/\s+/).map((word) => HEAD_LETTER * word.length),
          ...noteParts(note ?? '').map((part) => NOTE_LETTER * part.length),
        ),
    ),
  );
  return heads.map(({ kind }) => Math.max(...natural.filter((_, other) => heads[other]!.kind === kind)));
}
