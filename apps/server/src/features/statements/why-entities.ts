import {
  bridgeOf,
  consolidatedWith,
  digitsOf,
  isConsolidated,
  movementTerms,
  translateMovements,
  type Bridge,
  type BridgeTerm,
  type FiscalPeriod,
  type GroupMember,
  type MovementTerm,
  type QuotedRate,
  type Translated,
  type Unit,
} from '@margin-lens/core';
import { maySee, type Viewer } from '../../base/viewer';
import { averageRates, holdings, type AverageRates } from '../../store/rates';
import type { Entity, WorkspaceModel } from '../workspace/workspace-model';
import type { OpenedStatement } from './open-statement';
import { sidesIn } from './why-sides';

type Currency = Unit & { kind: 'currency' };

interface Member {
  entity: Entity;
  member: GroupMember;
}

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
  opened: OpenedStatement;
  cell: string;
  openFor: (entity: Entity) => Promise<OpenedStatement>;
  shown: number;
}

/**
 * The change of a cell in all entities that are consolidated with the one that is looked at: each month of each at its
 * average rate, a subsidiary from the day on that it is held; before eliminations.
 */
export async function whyByEntity({ opened, cell, openFor, shown }: EntityQuestion): Promise<EntityBridge> {
  const { entity, source, snapshot } = opened;
  const { model, viewer, em } = snapshot;
  const code = model.settings?.reporting_currency ?? entity.currency.code;
  const unit: Currency = { kind: 'currency', code, digits: digitsOf(code) };
  const without = (problem: string): EntityBridge => ({ bridge: undefined, unit, basis: '', problem });

  if (isOfOneEntity(opened, cell)) return without('These columns are always read for one entity.');
  const members = consolidatedWith(entity.code, await holdings(em), source.at.end);
  const group = members.flatMap((member): Member[] => {
    const found = model.entity(member.code);
    return found ? [{ entity: found, member }] : [];
  });
  if (group.length < 2) return without(`${entity.name} is consolidated with no other entity in ${source.at.label}.`);
  const isApart = (each: Entity) => each.calendar.calendar.code !== entity.calendar.calendar.code;
  const kept = group.filter((each) => maySee(viewer, each.entity.code) && !isApart(each.entity));
  const rates = await averageRates(em, code);

  const parts: (BridgeTerm & { base: number })[] = [];
  const missing = new Map<string, Set<number>>();
  for (const { entity: its, member } of kept) {
    const own = await openFor(its);
    if (own.entity.code !== member.code) return without('This statement is always read for one entity.');
    const sides = sidesIn(own, cell);
    const translated = (['of', 'base'] as const).map((side) => {
      const terms = sides && movementTerms(own.evaluation, sides[side]);
      return terms && translatedIn(own, terms, member, rates, unit);
    });
    const [of, base] = translated;
    if (!of || !base)
      return without(
        'Only sums of income and costs, planned as finely as they are asked for, can be told apart by entity.',
      );
    const months = new Set([...of.missing, ...base.missing]);
    if (months.size > 0)
      missing.set(its.currency.code, new Set([...(missing.get(its.currency.code) ?? []), ...months]));
    parts.push({ id: member.code, label: its.name, amount: of.amount - base.amount, base: base.amount });
  }
  if (missing.size > 0) return without(missingWords(missing, code, entity.calendar.calendar.periods));
  const from = parts.reduce((sum, { base }) => sum + base, 0);
  const to = parts.reduce((sum, { amount }) => sum + amount, from);
  const bridge = bridgeOf(
    from,
    to,
    parts.map(({ id, label, amount }) => ({ id, label, amount })),
    shown,
  );
  return { bridge, unit, basis: basisWords(viewer, model, code, group, kept), problem: '' };
}

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

function translatedIn(
  { entity }: OpenedStatement,
  terms: readonly MovementTerm[],
  member: GroupMember,
  rates: AverageRates,
  unit: Currency,
): Translated {
  const { periods } = entity.calendar.calendar;
  const held = terms.filter(({ period }) => isConsolidated(member, periods[period]!.end));
  const own = rates.get(entity.currency.code);
  const rateOf = (period: number): QuotedRate | undefined =>
    entity.currency.code === unit.code ? { rate: '1', isInverse: false } : own?.get(rateMonth(periods, period));
  return translateMovements(held, rateOf, { from: entity.currency.digits, to: unit.digits });
}

/** The month whose rate a period takes: its own, and for an adjustment period that of the month before it. */
const rateMonth = (periods: readonly FiscalPeriod[], at: number): string =>
  periods[at]!.kind === 'regular' || at === 0 ? periods[at]!.key : rateMonth(periods, at - 1);

function missingWords(
  missing: ReadonlyMap<string, ReadonlySet<number>>,
  currency: string,
  periods: readonly FiscalPeriod[],
): string {
  const words = [...missing].map(([code, months]) => {
    const sorted = [...months].sort((a, b) => a - b);
    const more = sorted.length > 1 ? ` and ${sorted.length - 1} more` : '';
    return `${code} in ${periods[sorted[0]!]!.label}${more}`;
  });
  return `Average rates to ${currency} are missing: ${words.join('; ')}. Bring them in under Deliveries, or choose a span that ends sooner.`;
}

/** How the entities were put together; those that a viewer may not see are counted, not named. */
function basisWords(
  viewer: Viewer,
  { entities }: WorkspaceModel,
  currency: string,
  group: readonly Member[],
  kept: readonly Member[],
): string {
  const seen = entities.filter(({ code }) => maySee(viewer, code));
  const namesOf = (is: (code: string) => boolean) =>
    seen
      .filter(({ code }) => is(code))
      .map(({ name }) => name)
      .join(', ');
  const isIn = (members: readonly Member[], code: string) => members.some(({ entity }) => entity.code === code);
  const hidden = group.filter(({ entity }) => !maySee(viewer, entity.code)).length;
  const apart = namesOf((code) => !isIn(group, code));
  const out = namesOf((code) => isIn(group, code) && !isIn(kept, code));
  return [
    `All entities that are consolidated in full, before eliminations, in ${currency}: each month at its average rate.`,
    apart && `Not consolidated in full: ${apart}.`,
    out && `Left out, since they have another calendar: ${out}.`,
    hidden > 0 && `Left out, since you may not see them: ${hidden} ${hidden === 1 ? 'entity' : 'entities'}.`,
  ]
    .filter(Boolean)
    .join(' ');
}
