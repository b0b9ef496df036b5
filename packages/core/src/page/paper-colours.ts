/** What the tokens of the interface are on paper and in workbooks: their light values, as hex without the hash. */
export const PAPER = {
  ink: '22282B',
  second: '5A6165',
  rule: 'CFC8B8',
  prior: '9A978E',
  brass: 'A87418',
  favourable: '12706B',
  adverse: 'B04A1F',
  sheet: 'FFFFFF',
} as const;

/** The tokens that charts name, as they are on paper. */
const TOKENS: Record<string, string> = {
  '--ink': PAPER.ink,
  '--ink-2': PAPER.second,
  '--sheet': PAPER.sheet,
  '--prior': PAPER.prior,
  '--brass': PAPER.brass,
  '--favourable': PAPER.favourable,
  '--adverse': PAPER.adverse,
};

/** A text with its tokens, and what is mixed of two of them, as colours of paper. @example onPaper('var(--ink)') // '#22282B' */
export const onPaper = (text: string): string =>
  text
    .replace(/var\((--[\w-]+)\)/g, (_, token: string) => `#${TOKENS[token] ?? PAPER.ink}`)
    .replace(/color-mix\(in srgb, #(\w{6}) (\d+)%, #(\w{6})\)/g, (_, colour: string, part: string, other: string) =>
      mixed(colour, Number(part) / 100, other),
    );

/** Two colours in one, as six hexadecimal digits each. @param part of the first, 0 to 1 */
function mixed(colour: string, part: number, other: string): string {
  const channel = (of: string, at: number) => parseInt(of.slice(2 * at, 2 * at + 2), 16);
  const mix = (at: number) => Math.round(part * channel(colour, at) + (1 - part) * channel(other, at));
  return `#${[0, 1, 2].map((at) => mix(at).toString(16).padStart(2, '0')).join('')}`;
}
