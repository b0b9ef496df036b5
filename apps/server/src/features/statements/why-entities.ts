import type { EntityManager } from '@mikro-orm/better-sqlite';
import {
  bridgeOf, consolidatedWith, digitsOf, movementTerms, translateMovements,
  type Bridge, type BridgeTerm, type FiscalPeriod, type Holding, type MovementTerm, type QuotedRate, type Translated, type Unit,
} from '@margin-lens/core'; // prettier-ignore
import { maySee, type Viewer } from '../../viewer';
import type { Entity, WorkspaceModel } from '../workspace/workspace-model';
import type { OpenedStatement } from './statements-service';
import { sidesIn } from './why-sides';

type Currency = Unit & { kind: 'currency' };

/** A change by entities, in the reporting currency, or why it cannot be told apart by them. */
export interface EntityBridge {
  bridge: Bridge | undefined;
  unit: Currency;
  /** How the entities were put together. */
  basis: string;
  problem: string;
}

/** What is asked: a cell that is a difference, opened for one entity, and how it is opened for another. */
export interface EntityQuestion {
  em: EntityManager;
  viewer: Viewer;
  opened: OpenedStatement;
  cell: string;
  openFor: (entity: Entity) => Promise<OpenedStatement>;
  shown: number;
}

/**
 * The change of a cell in all entities that are consolidated with the one that is looked at: each month of each at its
 * average rate, a subsidiary from the day on that it is held; before eliminations.
 */
export async function whyByEntity({ em, viewer, opened, cell, openFor, shown }: EntityQuestion): Promise<EntityBridge> {
  const { model, entity, source } = opened;
  const code = model.settings?.reporting_currency ?? entity.currency.code;
  const unit: Currency = { kind: 'currency', code, digits: digitsOf(code) };
  const without = (problem: string): EntityBridge => ({ bridge: undefined, unit, basis: '', problem });

  if (isOfOneEntity(opened, cell)) return without('These columns are always read for one entity.');
  const members = consolidatedWith(entity.code, await holdingsOf(em), source.at.end);
  const others = members.flatMap(({ code: member, since }) => {
    const found = model.entity(member);
    return found ? [{ entity: found, since }] : [];
  });
  if (others.length < 2) return without(`${entity.name} is consolidated with no other entity in ${source.at.label}.`);
  const isApart = (each: Entity) => each.calendar.calendar.code !== entity.calendar.calendar.code;
  const kept = others.filter((each) => maySee(viewer, each.entity.code) && !isApart(each.entity));
  const rates = await averageRates(em, code);

  const parts: (BridgeTerm & { base: number })[] = [];
  const missing = new Map<string, Set<number>>();
  for (const { entity: member, since } of kept) {
    const own = await openFor(member);
    if (own.entity.code !== member.code) return without('This statement is always read for one entity.');
    const sides = sidesIn(own, cell);
    const translated = (['of', 'base'] as const).map((side) => {
      const terms = sides && movementTerms(own.evaluation, sides[side]);
      return terms && translatedIn(own, terms, since, rates, unit);
    });
    const [of, base] = translated;
    if (!of || !base) return without('Only sums of income and costs can be told apart by entity, since each month has a rate of its own.'); // prettier-ignore
    const months = new Set([...of.missing, ...base.missing]);
    if (months.size > 0) missing.set(member.currency.code, new Set([...(missing.get(member.currency.code) ?? []), ...months]));
    parts.push({ id: member.code, label: member.name, amount: of.amount - base.amount, base: base.amount });
  }
  if (missing.size > 0) return without(missingWords(missing, code, entity.calendar.calendar.periods));
  const from = parts.reduce((sum, { base }) => sum + base, 0);
  const to = parts.reduce((sum, { amount }) => sum + amount, from);
  const bridge = bridgeOf(from, to, parts.map(({ id, label, amount }) => ({ id, label, amount })), shown);
  return { bridge, unit, basis: basisWords(model, code, others, kept), problem: '' };
} // prettier-ignore

/** Whether a side of a change stands in a column of its own entity, whichever is looked at. */
function isOfOneEntity(opened: OpenedStatement, cell: string): boolean {
  const { columns } = opened.evaluation.input.columns;
  const sides = sidesIn(opened, cell);
  return (['of', 'base'] as const).some((side) => {
    const node = sides?.[side];
    const column = node?.at === 'cell' ? columns[node.column] : undefined;
    return column?.kind === 'figure' && column.selection.scope !== undefined;
  });
}

type Rates = ReadonlyMap<string, QuotedRate>;

const rateKey = (currency: string, period: string): string => `${currency} ${period}`;

/** Average rates between a currency and others, by the other and the key of the period; the pair itself wins over its other direction. */
async function averageRates(em: EntityManager, currency: string): Promise<Rates> {
  const rows = await em.getConnection().execute<{ base: string; quote: string; period: string; rate: string }[]>(
    `select base, quote, period, rate from rate where type = 'average' and until is null and "set" = '' and period <> '' and (base = ? or quote = ?)`,
    [currency, currency],
  );
  const rates = new Map<string, QuotedRate>();
  for (const { base, quote, period, rate } of rows) if (base === currency) rates.set(rateKey(quote, period), { rate, isInverse: true });
  for (const { base, quote, period, rate } of rows) if (quote === currency) rates.set(rateKey(base, period), { rate, isInverse: false });
  return rates;
} // prettier-ignore

const holdingsOf = (em: EntityManager): Promise<Holding[]> =>
  em.getConnection().execute<Holding[]>('select investor, investee, "from", percent, method from ownership where until is null'); // prettier-ignore

function translatedIn({ entity }: OpenedStatement, terms: readonly MovementTerm[], since: string | undefined, rates: Rates, unit: Currency): Translated {
  const { periods } = entity.calendar.calendar;
  const held = terms.filter(({ period }) => since === undefined || periods[period]!.end >= since);
  const rateOf = (period: number): QuotedRate | undefined =>
    entity.currency.code === unit.code ? { rate: '1', isInverse: false } : rates.get(rateKey(entity.currency.code, rateMonth(periods, period)));
  return translateMovements(held, rateOf, { from: entity.currency.digits, to: unit.digits });
} // prettier-ignore

/** The month whose rate a period takes: its own, and for an adjustment period that of the month before it. */
const rateMonth = (periods: readonly FiscalPeriod[], at: number): string =>
  periods[at]!.kind === 'regular' || at === 0 ? periods[at]!.key : rateMonth(periods, at - 1);

function missingWords(missing: ReadonlyMap<string, ReadonlySet<number>>, currency: string, periods: readonly FiscalPeriod[]): string {
  const words = [...missing].map(([code, months]) => {
    const sorted = [...months].sort((a, b) => a - b);
    const more = sorted.length > 1 ? ` and ${sorted.length - 1} more` : '';
    return `${code} in ${periods[sorted[0]!]!.label}${more}`;
  });
  return `Average rates to ${currency} are missing: ${words.join('; ')}. Bring them in under Deliveries, or choose a span that ends sooner.`;
} // prettier-ignore

function basisWords({ entities }: WorkspaceModel, currency: string, all: readonly { entity: Entity }[], kept: readonly { entity: Entity }[]): string {
  const out = all.filter((each) => !kept.includes(each)).map(({ entity }) => entity.name);
  const apart = entities.filter(({ code }) => !all.some(({ entity }) => entity.code === code)).map(({ name }) => name);
  return [
    `All entities that are consolidated in full, before eliminations, in ${currency}: each month at its average rate.`,
    apart.length > 0 ? `Not consolidated in full: ${apart.join(', ')}.` : '',
    out.length > 0 ? `Left out, since they have another calendar or are not shown to you: ${out.join(', ')}.` : '',
  ].filter(Boolean).join(' ');
} // prettier-ignore
