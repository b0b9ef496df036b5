export const DECIMAL_SIGNS = ['.', ','] as const;
export type DecimalSign = (typeof DECIMAL_SIGNS)[number];

/** Order of year, month and day. */
export const DATE_ORDERS = ['ymd', 'dmy', 'mdy'] as const;
export type DateOrder = (typeof DATE_ORDERS)[number];

/** How numbers are written: by the sign before the decimals, and what stands between thousands. */
export const NUMBER_STYLES = ['point', 'comma', 'space', 'apostrophe'] as const;
export type NumberStyle = (typeof NUMBER_STYLES)[number];

/** How a person writes and reads numbers and days. */
export interface WritingStyle {
  numbers: NumberStyle;
  days: DateOrder;
}

export const USUAL_STYLE: WritingStyle = { numbers: 'point', days: 'dmy' };

/** @source Unicode CLDR 44, number symbols of en, de, nb and de-CH (from memory) */
const SIGNS: Record<NumberStyle, { decimal: DecimalSign; group: string }> = {
  point: { decimal: '.', group: ',' },
  comma: { decimal: ',', group: '.' },
  space: { decimal: ',', group: '\u00a0' },
  apostrophe: { decimal: '.', group: '’' },
};

let styleNow = (): WritingStyle => USUAL_STYLE;

/**
 * Says where the style of whoever reads is found: on a page it is the person's, on a server that of the request. Figures
 * are put in words in a hundred places, and all of them for one reader, so that it is asked for and not handed on.
 */
export function readStyleBy(find: () => WritingStyle): void {
  styleNow = find;
}

/** The style of whoever reads. */
export const writingStyle = (): WritingStyle => styleNow();

/** The sign before the decimals, as whoever reads writes it. */
export const decimalSign = (): DecimalSign => SIGNS[styleNow().numbers].decimal;

/** Plain decimal text with thousands told apart, as whoever reads writes it. @example '1234.5' -> '1,234.5' */
export function readablePlain(plain: string): string {
  const { decimal, group } = SIGNS[styleNow().numbers];
  const [whole = '', decimals] = plain.split('.');
  const divided = whole.replace(/\B(?=(\d{3})+$)/g, group);
  return decimals === undefined ? divided : `${divided}${decimal}${decimals}`;
}

/** Plain decimal text as whoever reads types it, and as their spreadsheet reads it. @example '1234.5' -> '1234,5' */
export const typedPlain = (plain: string): string => plain.replace('.', decimalSign());

/** A count in digits. @example 12345 -> '12,345' */
export const countText = (count: number): string => readablePlain(String(count));
