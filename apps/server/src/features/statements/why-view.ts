import type { StatementContext, WhyRequest, WhyView } from '@margin-lens/contract';
import {
  bridgeOf,
  hasFigures,
  incomeAndOther,
  stepsPerUnit,
  whyByAccount,
  whyByCurrency,
  whyByInputs,
  whyByRow,
  whyByVolume,
  type Account,
  type Bridge,
  type BridgeTerm,
  type Change,
  type CompiledRow,
  type Row,
  type VolumeSide,
  type VolumeValue,
  type WhyVolume,
} from '@margin-lens/core';
import { appError } from '../../base/app-error';
import type { Snapshot } from '../workspace/snapshot';
import { openKept, type OpenedStatement } from './open-statement';
import { whyByEntities } from './why-entities';
import { changeIn, favourOf, sidesShown, sidesIn, versionName } from './why-sides';
import { bridgeWords, valueWords } from '../../base/words';

/** Parts that stand alone; the others are folded into one. */
const TERMS_SHOWN = 8; // 3 to 20

/**
 * What explains a change in a statement: which rows, accounts or values of a dimension; price, volume and mix.
 * @throws SRV_TRACE_UNKNOWN when the cell is not there or is no difference
 */
export async function whyView(
  snapshot: Snapshot,
  id: string,
  { cell, by, counted, ...context }: WhyRequest,
): Promise<WhyView> {
  const opened = await openKept(snapshot, id, context);
  if (by === ENTITIES) return whyByEntities(opened, { id, context, cell, shown: TERMS_SHOWN });
  const change = changeIn(opened, cell);
  if (!change) throw appError('SRV_TRACE_UNKNOWN', { address: cell });
  const { evaluation } = opened;
  const [rowId, columnId] = cell.split('~') as [string, string];
  const row = evaluation.row(evaluation.input.rows.byId.get(rowId)!);
  const asked: Asked = { snapshot, id, context, cell, by };
  const isSum = row.additive && hasFigures(row);
  const volume = counted === undefined || !isSum ? undefined : await byVolume(asked, opened, change, counted);
  const isByValue = !NO_VALUES.has(by);
  const split = isByValue && isSum && counted === undefined ? await byDimension(asked, change) : undefined;
  const lacking = split?.lacking && versionName(evaluation, snapshot.model, change[split.lacking]);
  const note = isByValue && !lacking && (volume !== undefined || isSum) ? await grainNote(asked) : '';
  const bridge = volume
    ? { terms: volume.terms, folded: 0 }
    : counted === undefined
      ? (split?.bridge ?? (await bridgeOfChange(asked, opened, change, row)))
      : undefined;
  return {
    row: row.label,
    column: columnId,
    ...sidesShown(evaluation, snapshot.model, change),
    unit: evaluation.figure(change.of).unit,
    from: change.from,
    to: change.to,
    terms: (bridge?.terms ?? []).map((term) => ({ ...term, favour: favourOf(row, term.amount) })),
    folded: bridge?.folded ?? 0,
    note,
    basis: '',
    problem: bridge ? null : whyNone(by, row, isSum && (counted !== undefined || by === INPUTS), lacking),
    counts: snapshot.model.accounts
      .filter(({ nature }) => nature === 'statistic')
      .map(({ number, name, unit }) => ({ number, name, unit: unit ?? '' })),
    counted: volume?.counted ?? null,
    varies: row.variesWith !== undefined,
    values: (volume?.values ?? []).map(valueView),
  };
}

/** Why a change cannot be told apart, in words; `lacking` is the version that has none of the dimension. */
function whyNone(by: string, { label }: CompiledRow, takesQuantities: boolean, lacking: string | undefined): string {
  if (lacking !== undefined) return bridgeWords.withoutValues(lacking, by);
  if (by === RATES) return bridgeWords.noRates;
  return takesQuantities ? bridgeWords.noQuantities : bridgeWords.noSum(label);
}

function bridgeOfChange(
  asked: Asked,
  opened: OpenedStatement,
  change: Change,
  row: CompiledRow,
): Promise<Bridge> | Pick<Bridge, 'terms' | 'folded'> | undefined {
  if (asked.by === 'accounts') return whyByAccount(opened.evaluation, change, TERMS_SHOWN);
  if (asked.by === 'rows') return whyByRow(opened.evaluation, change, TERMS_SHOWN);
  if (asked.by === RATES) {
    const terms = whyByCurrency(opened.evaluation, change, (step) => bridgeWords.ofRates[step]);
    return terms && { terms, folded: 0 };
  }
  if (asked.by === INPUTS) {
    const terms = whyByInputs(opened.evaluation, row, change);
    return terms && { terms, folded: 0 };
  }
  return undefined;
}

/** Says which side plans accounts of the change without the dimension, so that they stand under no value. */
async function grainNote({ snapshot, id, context, cell, by }: Asked): Promise<string> {
  const { model } = snapshot;
  const [value] = model.trees.find(({ name }) => name === by)?.values ?? [];
  if (!value) return '';
  const where = [context.where, `${by}:${encodeURIComponent(value.value)}`].filter(Boolean).join(',');
  const narrowed = await openKept(snapshot, id, { ...context, where });
  const sides = sidesIn(narrowed, cell);
  if (!sides) return ''; // nothing of it has the value
  const { evaluation } = narrowed;
  const higher = [sides.base, sides.of].filter((node) => evaluation.figure(node).reason === 'planned_higher');
  const names = higher.map((node) => versionName(evaluation, model, node));
  return names.length === 0 ? '' : bridgeWords.plannedHigher(names, by);
}

/** A change by the values of a dimension, or the side that tells none of its figure apart by them, while the other does. */
interface Split {
  bridge?: Bridge;
  lacking?: 'of' | 'base';
}

/** The change by the top values of a dimension, each read in a statement of its own; the rest has no value. */
async function byDimension(asked: Asked, change: Change): Promise<Split> {
  const parts = (await partsOf(asked, [])).map(({ id, label, part }) => {
    const { from = 0, to = 0 } = changeIn(part, asked.cell) ?? {};
    return { id, label, from, to };
  });
  const isWithout = (side: 'from' | 'to') => parts.every((part) => (part.id === '') === (part[side] !== 0));
  const hasValues = (side: 'from' | 'to') => parts.some((part) => part.id !== '' && part[side] !== 0);
  if (isWithout('from') && hasValues('to')) return { lacking: 'base' };
  if (isWithout('to') && hasValues('from')) return { lacking: 'of' };
  const terms = parts.map(({ id, label, from, to }): BridgeTerm => ({ id, label, amount: to - from }));
  return { bridge: bridgeOf(change.from, change.to, terms, TERMS_SHOWN) };
}

/**
 * Price, volume and mix by the top values of a dimension, counted by a statistic; without a number by the first that
 * has quantities on both sides.
 */
async function byVolume(
  asked: Asked,
  opened: OpenedStatement,
  change: Change,
  number: string,
): Promise<(WhyVolume & { counted: string }) | undefined> {
  const statistics = asked.snapshot.model.accounts.filter(
    (account) => account.nature === 'statistic' && (number === '' || account.number === number),
  );
  const parts = await partsOf(asked, statistics.map(quantityRow));
  const column = asked.cell.split('~')[1]!;
  for (const statistic of statistics) {
    const values = parts.map(({ id, label, part }): VolumeValue => {
      const [of, base] = (['of', 'base'] as const).map((side) =>
        sideIn(part, asked.cell, `${quantityRow(statistic).id}~${column}`, side),
      );
      return { id, label, of: of!, base: base! };
    });
    const found = whyByVolume(change.to - change.from, values);
    if (found) return { ...found, counted: statistic.number };
  }
  return undefined;
}

/** The statement for each top value of a dimension and for what has none, with rows added behind its own. */
async function partsOf({ snapshot, id, context, by }: Asked, rows: readonly Row[]): Promise<Part[]> {
  const tops = snapshot.model.trees.find(({ name }) => name === by)?.values.filter(({ parent }) => parent === '') ?? [];
  const parts: Part[] = [];
  for (const { value, name } of [...tops, { value: '', name: valueWords.heading(by) }]) {
    const where = [context.where, `${by}:${encodeURIComponent(value)}`].filter(Boolean).join(',');
    const part = await openKept(snapshot, id, { ...context, where }, { added: rows, finerThanPlan: 'zero' });
    parts.push({ id: value, label: name || value, part });
  }
  return parts;
}

/** What a change is asked for by, where its entities are meant; and volume, price and efficiency. */
const ENTITIES = 'entities';
const INPUTS = 'inputs';
/** Business, rates and changes of the group. */
const RATES = 'rates';
/** What a change is asked for by that is no dimension. */
const NO_VALUES: ReadonlySet<string> = new Set(['accounts', 'rows', ENTITIES, INPUTS, RATES]);

/** A change that is asked for, and what it is to be told apart by. */
interface Asked {
  snapshot: Snapshot;
  id: string;
  context: StatementContext;
  cell: string;
  by: string;
}

/** A statement narrowed to one value of a dimension. */
interface Part {
  id: string;
  label: string;
  part: OpenedStatement;
}

const quantityRow = ({ number, name }: Account): Row => ({
  kind: 'statistic',
  id: `quantity_${number.toLowerCase().replace(/[^a-z0-9]/g, '_')}`,
  label: name,
  accounts: { include: [{ by: 'account', number }] },
});

const NOTHING: VolumeSide = { income: 0, other: 0, quantity: 0 };

/** What a side of a change holds in one part: money by nature, and how many. */
function sideIn(part: OpenedStatement, cell: string, quantityCell: string, side: 'of' | 'base'): VolumeSide {
  const { evaluation } = part;
  const [money, counted] = [sidesIn(part, cell)?.[side], sidesIn(part, quantityCell)?.[side]];
  const amounts = money && incomeAndOther(evaluation, money);
  if (!amounts || !counted) return NOTHING;
  const { amount, unit } = evaluation.figure(counted);
  return { ...amounts, quantity: (amount ?? 0) / stepsPerUnit(unit) };
}

const valueView = ({ label, of, base, effects }: WhyVolume['values'][number]): WhyView['values'][number] => ({
  label,
  quantityOf: of.quantity,
  quantityBase: base.quantity,
  amountOf: of.income + of.other,
  amountBase: base.income + base.other,
  price: effects.price,
  unitCost: effects.unitCost,
  volume: effects.volume,
  mix: effects.mix,
  other: effects.newProduct + effects.discontinued,
});
