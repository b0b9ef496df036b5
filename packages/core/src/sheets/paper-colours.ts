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
