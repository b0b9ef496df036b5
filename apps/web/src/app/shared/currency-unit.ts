import { digitsOf, type Unit } from '@margin-lens/core/shown';

/** A currency as a unit of figures. */
export const currencyUnit = (code: string): Unit => ({ kind: 'currency', code, digits: digitsOf(code) });
