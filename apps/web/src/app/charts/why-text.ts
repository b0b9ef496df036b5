import { type BridgeSteps, exactFigure, formatFigure, REST, type ShownUnit } from '@margin-lens/core';
import type { WhyView } from '@margin-lens/contract';
import { countText } from '@margin-lens/core/shown';

type Term = WhyView['terms'][number];

/** Effects of a row that varies with a quantity, by their ids. */
const INPUT_EFFECTS: ReadonlySet<string> = new Set(['volume', 'price', 'efficiency', 'spending']);

/** A draft of the explanation in words: the whole, then the two largest parts, and what goes against them. */
export function whySentence({ row, of, base, from, to, unit, terms, counted }: WhyView, shown: ShownUnit): string {
  const change = to - from;
  const text = (amount: number) => formatFigure({ amount, unit }, shown);
  if (change === 0) return `${row}: ${of} is as ${base}.`;
  const named = terms.filter(({ id }) => id !== REST);
  const along = named.filter(({ amount }) => Math.sign(amount) === Math.sign(change)).slice(0, 2);
  const [against] = named.filter(({ amount }) => Math.sign(amount) === -Math.sign(change));
  // names of rows and accounts stay as they are; effects are words
  const wordOf = ({ id, label }: Term) => (counted !== null || INPUT_EFFECTS.has(id) ? label.toLowerCase() : label);
  const parts = along.map((term) => `${wordOf(term)} ${text(term.amount)}`).join(' and ');
  const offset = against ? `, partly offset by ${wordOf(against)} ${text(against.amount)}` : '';
  return `${row}: ${of} ${text(change)} against ${base}${parts === '' ? '' : `, mostly ${parts}`}${offset}.`;
}

/** The steps of a bridge as they are drawn. */
export const whySteps = ({ base, baseNotation, from, terms, of, ofNotation, to, unit }: WhyView): BridgeSteps => ({
  from: { label: base, amount: from, notation: baseNotation },
  terms,
  to: { label: of, amount: to, notation: ofNotation },
  unit,
});

export const exactOf = ({ unit }: WhyView, amount: number): string => exactFigure({ amount, unit });

const EFFECTS = [
  { key: 'price', name: 'Price' },
  { key: 'unitCost', name: 'Cost' },
  { key: 'volume', name: 'Volume' },
  { key: 'mix', name: 'Mix' },
  { key: 'other', name: 'New, gone' },
] as const;

/** The effects that any value has, by value, as they are shown; for a cell of costs alone the price is what a unit costs. */
export function valueEffects({ values, terms, unit }: WhyView, shown: ShownUnit): { name: string; texts: string[] }[] {
  const isCost = !terms.some(({ id }) => id === 'price');
  return EFFECTS.filter(({ key }) => values.some((value) => Math.round(value[key]) !== 0)).map(({ key, name }) => ({
    name: key === 'price' && isCost ? 'Cost' : name,
    texts: values.map((value) => formatFigure({ amount: Math.round(value[key]), unit }, shown)),
  }));
}

/** How many of a value there are on both sides, and at what price or cost each. */
export function quantityWords(
  { unit }: WhyView,
  { quantityOf, quantityBase, amountOf, amountBase }: WhyView['values'][number],
): string {
  const side = (quantity: number, amount: number) =>
    quantity === 0
      ? 'none'
      : `${wholeNumber(quantity)} at ${exactFigure({ amount: Math.round(amount / quantity), unit })}`;
  return `${side(quantityOf, amountOf)}, was ${side(quantityBase, amountBase)}`;
}

const wholeNumber = (quantity: number) => countText(Math.round(quantity));
