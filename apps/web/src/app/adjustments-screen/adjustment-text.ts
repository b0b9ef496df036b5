import type { JournalView, NewAdjustment } from '@margin-lens/contract';
import { digitsOf, formatMinor, minorDigits, parseAmount, typedPlain } from '@margin-lens/core';
import { plainNumber } from '../shared/typed-amount';

type Line = NewAdjustment['lines'][number];

/** Minor units of an amount as typed; undefined when it is none. */
export function minorOf(text: string, digits: number): number | undefined {
  const read = text.trim() === '' ? '0' : plainNumber(text);
  const parsed = read === undefined ? undefined : parseAmount(read, digits);
  return parsed && 'minor' in parsed ? parsed.minor : undefined;
}

/**
 * An amount in the currency of a document as typed, with the sign of its line; empty where there is none, undefined where it
 * cannot be read.
 * @example foreignOf('PLN 1,000.50', true) // { currency: 'PLN', currencyAmount: '-1000.50' }
 */
export function foreignOf(text: string, isCredit = false): Pick<Line, 'currency' | 'currencyAmount'> | undefined {
  if (text.trim() === '') return { currency: '', currencyAmount: '' };
  const [, currency = '', amount = ''] = /^([A-Z]{3})\s*(\S.*)$/.exec(text.trim().toUpperCase()) ?? [];
  const digits = minorDigits(currency);
  if (digits === undefined || minorOf(amount, digits) === undefined) return undefined;
  const plain = (plainNumber(amount) ?? amount).replace(/^-/, '');
  return { currency, currencyAmount: isCredit ? `-${plain}` : plain };
}

/** The same, to be typed on: which side it is on says its sign. */
export const foreignText = ({ currency, currencyAmount }: Pick<Line, 'currency' | 'currencyAmount'>): string =>
  currencyAmount === '' ? '' : `${currency} ${typedPlain(currencyAmount.replace(/^-/, ''))}`;

/** A journal that was posted by hand, as it would be posted again. */
export function adjustmentOf(
  { entity, currency, lines }: JournalView,
  more: Pick<NewAdjustment, 'reason' | 'reverses' | 'period'>,
): NewAdjustment {
  const text = (minor: number) => (minor === 0 ? '' : formatMinor(minor, currency.digits));
  return {
    ...more,
    entity: entity.code,
    date: lines[0]!.date,
    lines: lines.map(({ account, description, document, attributes, ...line }) => ({
      ...{ account, description, document },
      ...{ debit: text(line.debit), credit: text(line.credit) },
      partner: attributes.find(({ name }) => name === 'partner')?.value ?? '',
      values: Object.fromEntries(
        attributes.filter(({ name }) => name !== 'partner' && name !== 'flow').map(({ name, value }) => [name, value]),
      ),
      currency: line.currencyAmount === null ? '' : line.currency,
      currencyAmount: line.currencyAmount === null ? '' : formatMinor(line.currencyAmount, digitsOf(line.currency)),
    })),
  };
}
