import type { AbstractControl, ValidationErrors } from '@angular/forms';

const AMOUNT = /^-?\d{1,15}(\.\d{1,4})?$/;

/** An amount as it was typed, with its thousands divided or not, as files write it. @example '4,200,000.00' -> '4200000.00' */
export const plainAmount = (typed: string): string => typed.replace(/[,\s\u00a0’']/g, '');

/** An amount, or nothing. */
export function typedAmount({ value }: AbstractControl<string>): ValidationErrors | null {
  const plain = plainAmount(value);
  return plain === '' || AMOUNT.test(plain) ? null : { amount: true };
}

/** An amount as files write it, as people read it. @example '4200000.00' -> '4,200,000.00' */
export function readAmount(plain: string): string {
  const [whole = '', decimals] = plain.split('.');
  const divided = whole.replace(/\B(?=(\d{3})+$)/g, ',');
  return decimals === undefined ? divided : `${divided}.${decimals}`;
}
