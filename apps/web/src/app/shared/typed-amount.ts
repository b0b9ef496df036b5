import type { AbstractControl, ValidationErrors } from '@angular/forms';
import { decimalSign, parseAmount, readNumber } from '@margin-lens/core/shown';

/** Decimals that a currency has at most. @source ISO 4217 */
const MOST_DIGITS = 4;

/** A number in the style of whoever types it, as files write it; undefined for what is none. @example '4,200,000.00' -> '4200000.00' */
export const plainNumber = (typed: string): string | undefined => readNumber(typed, decimalSign())?.plain;

/** An amount as it was typed, as files write it; empty for nothing, and for what is no amount. */
export const plainAmount = (typed: string): string => plainNumber(typed) ?? '';

/** An amount, or nothing. */
export function typedAmount({ value }: AbstractControl<string>): ValidationErrors | null {
  if (value.trim() === '') return null;
  return 'minor' in parseAmount(plainAmount(value), MOST_DIGITS) ? null : { amount: true };
}

/** A number as it is typed; NaN where it is none. */
export const typedNumber = (text: string): number => (text.trim() === '' ? NaN : Number(plainNumber(text) ?? NaN));

/** Numbers as they are typed one after the other, with blanks or semicolons between them. */
export const typedNumbers = (text: string): number[] =>
  text
    .split(/[\s;]+/)
    .filter(Boolean)
    .map(typedNumber);
