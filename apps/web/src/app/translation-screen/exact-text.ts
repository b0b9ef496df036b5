import { readablePlain } from '@margin-lens/core/shown';

/**
 * An exact decimal as people read it: grouped, in brackets below zero, with two decimals more than the currency has and a
 * mark where there are yet more.
 * @example exactText('-171.79388506', 2) // '(171.7939…)'
 */
export function exactText(exact: string, digits: number): string {
  if (Number(exact) === 0) return '–';
  const shown = digits + 2;
  const [, decimals = ''] = exact.split('.');
  const rounded = readablePlain(Math.abs(Number(exact)).toFixed(shown));
  const text = decimals.length > shown ? `${rounded}…` : rounded;
  return exact.startsWith('-') ? `(${text})` : text;
}
