import { fraction, fractionOf, inverse, times, type Fraction } from '../money/fraction';

/** A rate as it is quoted: presentation units for one local unit, or where `isInverse`, local units for one of those. */
interface Quote {
  /** Decimal text, as it was delivered. */
  rate: string;
  isInverse: boolean;
}

/** A rate from one currency to another, quoted for the two, or through a third that both are quoted against. */
export interface QuotedRate extends Quote {
  then?: Quote & { /** The third currency. */ through: string };
}

/** What an amount in minor units is multiplied by, exactly. */
export function exactFactor(quoted: QuotedRate, fromDigits: number, toDigits: number): Fraction {
  const scale = 10 ** Math.abs(toDigits - fromDigits);
  const steps = toDigits >= fromDigits ? fraction(scale) : fraction(1, scale);
  const first = times(factorOf(quoted), steps);
  return quoted.then ? times(first, factorOf(quoted.then)) : first;
}

/** The same, as near as a binary fraction comes. */
export function nearFactor(quoted: QuotedRate, fromDigits: number, toDigits: number): number {
  const scale = 10 ** (toDigits - fromDigits);
  const first = quoted.isInverse ? scale / Number(quoted.rate) : scale * Number(quoted.rate);
  if (!quoted.then) return first;
  return quoted.then.isInverse ? first / Number(quoted.then.rate) : first * Number(quoted.then.rate);
}

const factorOf = ({ rate, isInverse }: Quote): Fraction => (isInverse ? inverse(fractionOf(rate)) : fractionOf(rate));
