import { digitsOf, type Unit } from '@margin-lens/core';

/** A currency as a unit of figures. */
export const currencyUnit = (code: string): Unit => ({ kind: 'currency', code, digits: digitsOf(code) });
