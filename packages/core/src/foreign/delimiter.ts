export const DELIMITERS = [',', ';', '\t', '|'] as const;
export type Delimiter = (typeof DELIMITERS)[number];

/** Lines looked at. */
const LINES = 40;

/** How many fields a line has; quoted text does not count. */
const fieldsOf = (line: string, delimiter: string): number => line.replace(/"[^"]*"?/g, '').split(delimiter).length;

/**
 * The delimiter under which the lines of a text have most often the same, largest number of fields.
 * @source RFC 4180 for quotes; the rest is common practice
 */
export function delimiterOf(text: string): Delimiter {
  const lines = text
    .split(/\r\n|\n|\r/)
    .filter((line) => line.trim() !== '')
    .slice(0, LINES);
  const scoreOf = (delimiter: string): number => {
    const counts = lines.map((line) => fieldsOf(line, delimiter));
    const usual = counts.sort((a, b) => a - b)[counts.length >> 1] ?? 1;
    return usual <= 1 ? 0 : (usual - 1) * counts.filter((count) => count === usual).length;
  };
  return DELIMITERS.reduce((best, delimiter) => (scoreOf(delimiter) > scoreOf(best) ? delimiter : best), ',');
}
