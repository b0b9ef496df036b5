import type { AbstractControl, ValidationErrors } from '@angular/forms';
import { parseAmount, readNumber } from '@margin-lens/core';

/** Decimals that a currency has at most. @source ISO 4217 */
const MOST_DIGITS = 4;

/** An amount as it was typed, as files write it; empty for nothing, and for what is no amount. @example '4,200,000.00' -> '4200000.00' */
export const plainAmount = (typed: string): string => readNumber(typed, '.')?.plain ?? '';

/** An amount, or nothing. */
export function typedAmount({ value }: AbstractControl<string>): ValidationErrors | null {
  if (value.trim() === '') return null;
  return 'minor' in parseAmount(plainAmount(value), MOST_DIGITS) ? null : { amount: true };
}

/** An amount as files write it, as people read it. @example '4200000.00' -> '4,200,000.00' */
export function readAmount(plain: string): string {
  const [whole = '', decimals] = plain.split('.');
  const divided = whole.replace(/\B(?=(\d{3})+$)/g, ',');
  return decimals === undefined ? divided : `${divided}.${decimals}`;
}
