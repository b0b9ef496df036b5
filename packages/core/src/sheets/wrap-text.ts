import type { Measure, PaperFont } from './sheet';

/** Words that are set in one way. */
export interface Run {
  text: string;
  font: PaperFont;
}

/** What stands on one line. Shape: runs from left to right, each at its distance from the left. Units: points. */
export type Line = readonly (Run & { x: number })[];

/** Breaks words over lines of a width; a word that is wider than a line stands alone. Units: points. */
export function wrapText(runs: readonly Run[], size: number, width: number, measure: Measure): Line[] {
  const lines: (Run & { x: number })[][] = [[]];
  let end = 0;
  for (const { text, font } of runs)
    for (const piece of text.split(/(?<=\s)|(?=\n)/)) {
      if (piece === '\n' || end + measure(piece.trimEnd(), font, size) > width) {
        if (piece === '\n' || end > 0) lines.push([]);
        end = 0;
      }
      if (piece === '\n' || (piece.trim() === '' && end === 0)) continue;
      const line = lines.at(-1)!;
      const before = line.at(-1);
      if (before?.font === font) before.text += piece;
      else line.push({ text: piece, font, x: end });
      end += measure(piece, font, size);
    }
  return lines.map((line) =>
    line.map((run, at) => (at === line.length - 1 ? { ...run, text: run.text.trimEnd() } : run)),
  );
}
