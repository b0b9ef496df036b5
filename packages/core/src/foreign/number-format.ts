import type { DecimalSign } from '../words/writing-style';

/** What in a number was not plain digits, a point and a leading minus. */
export type NumberHabit = 'thousands' | 'decimal_comma' | 'brackets' | 'trailing_minus' | 'minus_sign' | 'side_letters';

const SPACES = "'’ \u00a0\u202f\u2009";
const GROUPS: Record<DecimalSign, string> = { '.': `,${SPACES}`, ',': `.${SPACES}` };

interface Signed {
  body: string;
  isNegative: boolean;
  habits: NumberHabit[];
}

/** Takes the sign off a number, however it is written: −, -, +, trailing, in brackets, or by CR and DR. */
function takeSign(text: string): Signed {
  let body = text.trim();
  let isNegative = false;
  const habits: NumberHabit[] = [];
  const drop = (habit: NumberHabit | undefined, negative: boolean, rest: string) => {
    if (habit) habits.push(habit);
    isNegative = isNegative !== negative;
    body = rest.trim();
  };
  const letters = /^(.*\d)\s*(CR|DR)$/i.exec(body);
  if (letters) drop('side_letters', letters[2]!.toUpperCase() === 'CR', letters[1]!);
  if (/^\(.*\)$/.test(body)) drop('brackets', true, body.slice(1, -1));
  else if (/[-−]$/.test(body)) drop('trailing_minus', true, body.slice(0, -1));
  else if (body.startsWith('−')) drop('minus_sign', true, body.slice(1));
  else if (body.startsWith('-')) drop(undefined, true, body.slice(1));
  else if (body.startsWith('+')) drop(undefined, false, body.slice(1));
  return { body, isNegative, habits };
}

/**
 * Reads a number as people and other programs write it into plain decimal text, exactly.
 *
 * Shape: `plain` has digits, a point and a leading minus only; `habits` say what was other than that.
 * Missing: undefined when the text is no number in this reading, such as 1.2E+05, NaN or one group of two digits.
 * @source common practice
 * @example readNumber('(1.234,50)', ',') // { plain: '-1234.50', habits: ['brackets', 'thousands', 'decimal_comma'] }
 */
export function readNumber(text: string, decimal: DecimalSign): { plain: string; habits: NumberHabit[] } | undefined {
  const { body, isNegative, habits } = takeSign(text);
  const at = body.lastIndexOf(decimal);
  const whole = at < 0 ? body : body.slice(0, at);
  const fraction = at < 0 ? '' : body.slice(at + 1);
  if (at >= 0 && !/^\d+$/.test(fraction)) return undefined;
  const digits = withoutGroups(whole, GROUPS[decimal]);
  if (digits === undefined) return undefined;
  if (digits !== whole) habits.push('thousands');
  if (at >= 0 && decimal === ',') habits.push('decimal_comma');
  return { plain: `${isNegative ? '-' : ''}${digits}${at < 0 ? '' : `.${fraction}`}`, habits };
}

function withoutGroups(whole: string, separators: string): string | undefined {
  if (/^\d+$/.test(whole)) return whole;
  const separator = [...whole].find((letter) => separators.includes(letter));
  if (separator === undefined) return undefined;
  const [first, ...groups] = whole.split(separator);
  const isGrouped = /^[1-9]\d{0,2}$/.test(first!) && groups.every((group) => /^\d{3}$/.test(group));
  return isGrouped ? first + groups.join('') : undefined;
}

export interface DecimalEvidence {
  decimal: DecimalSign;
  /** False when numbers with two readings stand there and no other number settles which one is meant. */
  isCertain: boolean;
  /** Indexes of samples that can be read both ways. */
  unclear: number[];
}

/**
 * Tells from samples which sign stands before the decimals.
 *
 * A number settles it when it has both signs, one of them twice, or other than three digits behind its only one.
 * 1.234 settles nothing: it is one and a bit, or one thousand and a bit. Nor does 0.617, which no currency of two
 * decimals can hold.
 * @source common practice
 */
export function decimalSignOf(samples: readonly string[]): DecimalEvidence {
  const votes: Record<DecimalSign, number> = { '.': 0, ',': 0 };
  const unclear: number[] = [];
  samples.forEach((sample, index) => {
    const { body } = takeSign(sample);
    const signs = [...body].filter((letter) => letter === '.' || letter === ',') as DecimalSign[];
    const last = signs.at(-1);
    if (last === undefined || /[^\d.,'’ \u00a0\u202f\u2009]/.test(body)) return;
    const other = last === '.' ? ',' : '.';
    if (signs.includes(other)) return void votes[last]++;
    if (signs.length > 1) return void votes[other]++;
    const [before, after] = body.split(last) as [string, string];
    if (after.length !== 3 || before.replace(/\D/g, '').length > 3) return void votes[last]++;
    if (readNumber(sample, '.') && readNumber(sample, ',')) unclear.push(index);
  });
  const decimal = votes[','] > votes['.'] ? ',' : '.';
  return { decimal, isCertain: unclear.length === 0 || votes[decimal] > 0, unclear };
}
