import { salesOf, WHAT_HAPPENED, type Assumptions } from './profit-and-loss';
import type { DemoEntity, Month, ProductLine } from './scenario';

/** What a piece sold for, in euros, and what the plans took it to sell for as a part of that. */
const PRICE: Record<ProductLine, number> = { tableware: 6.4, tiles: 2.3, studio: 31, contract: 18 };
const PLANNED: Record<ProductLine, number> = { tableware: 1.025, tiles: 0.985, studio: 0.96, contract: 1 };
const EURO: Record<DemoEntity['currency'], number> = {
  EUR: 1,
  PLN: 4.3,
  GBP: 0.86,
  JPY: 164,
  USD: 1.08,
  SEK: 11.3,
  NOK: 11.3,
};

/** Pieces that an entity sold in a month. */
export const piecesSold = (entity: DemoEntity, line: ProductLine, month: Month): number =>
  Math.round(inEuros(entity, line, month, WHAT_HAPPENED) / PRICE[line]);

/** Pieces that a version plans to sell, in hundreds. */
export const piecesPlanned = (entity: DemoEntity, line: ProductLine, month: Month, assume: Assumptions): number =>
  Math.round(inEuros(entity, line, month, assume) / PRICE[line] / PLANNED[line] / 100) * 100;

/** Hours that kilns burned in a month, of which plans take somewhat less. */
const KILN_HOURS = 31.4;
export const kilnHours = ({ headcount }: DemoEntity, share: number): number =>
  Math.round(headcount * KILN_HOURS * share);

const inEuros = (entity: DemoEntity, line: ProductLine, month: Month, assume: Assumptions) =>
  salesOf(entity, line, month, assume) / 10 ** entity.digits / EURO[entity.currency];
