import { digitsOf, exactFigure } from '@margin-lens/core/shown';
import type { TraceView, TurnedAtView } from '@margin-lens/contract';

type Turned = NonNullable<TraceView['turned']>;
type Rate = NonNullable<TurnedAtView['rate']>;

const TYPES: Record<TurnedAtView['type'], string> = {
  average: 'average of the month',
  closing: 'closing rate',
  historical: 'historical rate',
  share: '',
};

/**
 * At what an amount was turned, in words.
 * @example turnedWords(turned) // '4.3121 PLN for 1 EUR, average of the month'
 */
export function turnedWords({ from, to, at, less }: Turned): string {
  const words = oneWords(at, from, to);
  return less ? `${words}, less ${oneWords(less, from, to)}` : words;
}

function oneWords({ type, rate, stated, share }: TurnedAtView, from: string, to: string): string {
  const part = share === undefined ? '' : `${percentOf(share)} of it`;
  const worth = stated.length > 0 ? 'worth when it came about' : TYPES[type];
  const at = rate && stated.length === 0 ? `${rateWords(rate, from, to)}, ${worth}` : worth;
  return [at, part].filter(Boolean).join(', ');
}

function rateWords({ rate, isInverse, then }: Rate, from: string, to: string): string {
  const middle = then?.through ?? to;
  const first = `${rate} ${isInverse ? `${from} for 1 ${middle}` : `${middle} for 1 ${from}`}`;
  if (!then) return first;
  return `${first}, ${then.rate} ${then.isInverse ? `${middle} for 1 ${to}` : `${to} for 1 ${middle}`}`;
}

/** The amount in its own currency, the rate, and what rounding gave so that parts add up. */
export function turnedProof({ figure, terms }: TraceView, { from, to, at, less, rest }: Turned): string {
  const local = terms.reduce((sum, { sign, figure: { amount } }) => sum + sign * (amount ?? 0), 0);
  const own = inCurrency(local, from);
  const rounding = rest === 0 ? '' : `, with ${inCurrency(rest, to)} so that parts add up`;
  const shown = exactFigure(figure);
  if (less) return `${own}${steps(at, from, to)} − ${own}${steps(less, from, to)} = ${shown}`;
  return `${own}${steps(at, from, to)} = ${shown}${rounding}`;
}

/** What is done to an amount: times or divided by rates, or taken as it was stated. */
function steps({ rate, stated, share }: TurnedAtView, from: string, to: string): string {
  const part = share === undefined ? '' : ` × ${percentOf(share)}`;
  if (stated.length > 0) {
    const each = stated.map(({ date, local, amount }) => {
      return `${inCurrency(local, from)} on ${date} at ${inCurrency(amount, to)}`;
    });
    return `, of it ${each.join(' and ')}${part}`;
  }
  const step = (each: { rate: string; isInverse: boolean }) => ` ${each.isInverse ? '÷' : '×'} ${each.rate}`;
  return (rate ? step(rate) : '') + (rate?.then ? step(rate.then) : '') + part;
}

const percentOf = (share: string) => `${share} %`;

const inCurrency = (amount: number, code: string) =>
  exactFigure({ amount, unit: { kind: 'currency', code, digits: digitsOf(code) } });
