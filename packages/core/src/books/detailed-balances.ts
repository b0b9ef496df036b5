import { attributesOf, combinationOf } from '../account/combination';
import { isFlow, naturalOrientation, type Account } from '../account/nature';
import { BROUGHT_FORWARD, Combinations, type CombinationTexts } from '../cube/combinations';
import { textOfLine, type LineColumns } from '../cube/line-columns';
import { allRuns, type Runs } from '../cube/segment';
import { SegmentBuilder } from '../cube/segment-builder';
import { allocate } from '../money/allocate';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import { daysFrom } from '../period/working-days';
import type { ScopeEntity } from '../scope/scope';
import { atClosingRates, type Retranslated } from './at-closing-rates';
import { LayeredBalances, type BalanceRows, type Balances } from './balances';
import { KINDS, NORMAL } from './book-rows';
import { kept } from './kept';
import { readsLines, type LineDetail, type LineField, type LineSource } from './line-detail';
import { itemParts, type ItemPart } from './open-items';
import { ACTUAL_ID } from './version-rows';

/** Values that lines carry beside their combinations, and the combinations with them by those without. */
interface Beside {
  values: readonly (readonly [LineField, string])[];
  ids: Map<number, number>;
}

/** What is kept of balances that are told apart in more detail, for as long as master data do not move. */
export class KeptDetail {
  readonly combinations = new Combinations();
  readonly runs = new Map<string, Runs>();
  readonly parts = new Map<string, LinesOfAccount>();
  private readonly besides = new Map<string, Beside>();

  beside(values: Beside['values']): Beside {
    const key = values.map(([field, value]) => `${field}=${value}`).join('\n');
    const known = this.besides.get(key) ?? { values, ids: new Map<number, number>() };
    this.besides.set(key, known);
    return known;
  }

  /** Id of a combination with what lines carry beside it. */
  idOf(base: number, texts: CombinationTexts, { values, ids }: Beside): number {
    const known = ids.get(base);
    if (known !== undefined) return known;
    const text = texts.textOf(base);
    const id = this.combinations.last + 1;
    this.combinations.add(id, values.length === 0 ? text : combinationOf(new Map([...attributesOf(text), ...values])));
    ids.set(base, id);
    return id;
  }
}

/** What lines belong to, column by column: each as a whole, or in parts. Units: minor units. */
interface PartColumns {
  /** Line of each part, those of one line one after the other; undefined where each line is one. */
  line: Int32Array | undefined;
  period: Int32Array;
  debit: Float64Array;
  credit: Float64Array;
  combination: Int32Array;
}

/** The lines of an account as they are told apart. */
interface LinesOfAccount {
  lines: LineColumns;
  parts: PartColumns;
  retranslated: readonly (Retranslated & { combination: number })[];
}

/** What journal lines of an account come to in a period, of what meets demands. Units: minor units, debit positive. */
export interface DetailedLines {
  /** By the id of the line: all of it, or the part that belongs there. */
  lines: ReadonlyMap<number, { amount: number; quantity: number }>;
  /** What open items in other currencies gain or lose at closing rates. */
  retranslated: readonly { text: string; amount: number }[];
}

export interface DetailMasters {
  accounts: readonly Account[];
  accountIds: ReadonlyMap<string, number>;
  entities: ReadonlyMap<number, ScopeEntity>;
}

/**
 * Balances whose combinations also carry what journal lines do: their month, day, document type, and the day on which what is
 * open is due. They add up to the balances that they are made from, so that books are made of them as of any others.
 *
 * Lines are read of the accounts that are asked for alone; what else there is stands as it does. A version has no lines: its
 * months are known, and what flows in a month is spread over the days on which the entity works. Openings and adjustment
 * periods fall on no day.
 * @source domain notes, Days
 */
export class DetailedBalances extends LayeredBalances {
  private readonly accountOf: ReadonlyMap<number, Account>;
  private readonly isAsked: ReadonlySet<number>;

  constructor(
    base: Balances,
    private readonly masters: DetailMasters,
    private readonly detail: LineDetail,
    private readonly source: LineSource,
    private readonly kept: KeptDetail,
    /** Changes with the rates that open items stand at. */
    private readonly ratesAsOf: number,
  ) {
    super(base);
    const { accounts, accountIds } = masters;
    this.accountOf = new Map(accounts.map((account) => [accountIds.get(account.number)!, account]));
    this.isAsked = new Set([...detail.accounts].map((number) => accountIds.get(number)!));
  }

  get combinations(): Combinations {
    return this.kept.combinations;
  }

  cubeAt(revision?: number): BalanceRows {
    const cube = this.base.cubeAt(revision);
    return {
      movedAt: (version, entity) => this.movedAt(cube, version, entity),
      rows: (version, entity) => {
        const key = [version, entity, this.movedAt(cube, version, entity), revision].join('|');
        return kept(this.kept.runs, key, KEPT_RUNS, () => this.rows(cube, version, entity, revision));
      },
    };
  }

  /** The lines of an account of an entity in a period that meet demands, and what else its open items come to there. */
  linesIn(
    entity: ScopeEntity,
    number: string,
    period: FiscalPeriod,
    kind: number,
    bases: readonly number[],
    counts: (combination: number) => boolean,
    revision: number | undefined,
  ): DetailedLines {
    const account = this.masters.accountIds.get(number)!;
    const { lines, parts, retranslated } = this.linesOf(entity, account, revision);
    const at = entity.calendar.idOf(period);
    const found = new Map<number, { amount: number; quantity: number }>();
    for (let part = 0; part < parts.period.length; part++) {
      const line = lineOf(parts, part);
      const [basis, entryKind] = [Math.floor(lines.kind[line]! / KINDS), lines.kind[line]! % KINDS];
      const isThere = parts.period[part] === at && entryKind === kind && bases.includes(basis);
      if (!isThere || !counts(parts.combination[part]!)) continue;
      const id = lines.id[line]!;
      const before = found.get(id) ?? { amount: 0, quantity: 0 };
      const amount = before.amount + parts.debit[part]! - parts.credit[part]!;
      found.set(id, { amount, quantity: before.quantity + quantityOf(lines, parts, part) });
    }
    return {
      lines: found,
      retranslated: retranslated.filter((each) => kind === NORMAL && each.period === at && counts(each.combination)),
    };
  }

  private movedAt(cube: BalanceRows, version: number, entity: number): number {
    const moved = cube.movedAt(version, entity);
    return this.detail.fields.includes('due_day') ? Math.max(moved, this.ratesAsOf) : moved;
  }

  private rows(cube: BalanceRows, version: number, entityId: number, revision?: number): Runs {
    const entity = this.masters.entities.get(entityId)!;
    const builder = new SegmentBuilder();
    const runs = cube.rows(version, entityId);
    const { segment } = runs;
    const isOfLines = version === ACTUAL_ID && readsLines(this.detail);
    for (let run = runs.first; run < runs.end; run++) {
      const account = segment.account[run]!;
      if (isOfLines && this.isAsked.has(account)) continue;
      for (let row = segment.firstRow[run]!; row < segment.firstRow[run + 1]!; row++)
        this.addRow(builder, entity, runs, run, row);
    }
    if (isOfLines) for (const account of this.isAsked) this.addLines(builder, entity, account, revision);
    return allRuns(builder.finish());
  }

  /** Adds a row of balances, with its month, and of a version spread over days. */
  private addRow(builder: SegmentBuilder, entity: ScopeEntity, { segment }: Runs, run: number, row: number): void {
    const account = segment.account[run]!;
    const [version, period, base] = [segment.version[run]!, segment.period[row]!, segment.combination[row]!];
    const kind = segment.kind[row]!;
    const add = (combination: number, [debit, credit, quantity]: readonly number[], count: number) =>
      builder.add(version, entity.id, account, period, combination, kind, debit!, credit!, quantity!, count);
    const amounts = [segment.debit[row]!, segment.credit[row]!, segment.quantity[row]!];
    if (base === BROUGHT_FORWARD) return add(BROUGHT_FORWARD, amounts, segment.count[row]!);
    const held = this.isAsked.has(account) ? this.periodOf(entity, period) : undefined;
    if (!held) return add(this.idOf(base, this.kept.beside([])), amounts, segment.count[row]!);
    const { month, days } = this.timesIn(entity, held);
    const isSpread = days.length > 0 && kind % KINDS === NORMAL && isFlow(this.accountOf.get(account)!);
    if (!isSpread) return add(this.idOf(base, month), amounts, segment.count[row]!);
    const evenly = days.map(() => 1);
    const shares = amounts.map((amount) => (amount === 0 ? days.map(() => 0) : allocate(amount, evenly)));
    days.forEach((day, at) => {
      const combination = this.idOf(base, day);
      const parts = shares.map((share) => share[at]!);
      // a figure that is said to be nothing is one on each of the days
      if (segment.count[row] !== 0 || parts.some((part) => part !== 0)) add(combination, parts, segment.count[row]!);
    });
  }

  private addLines(builder: SegmentBuilder, entity: ScopeEntity, account: number, revision: number | undefined): void {
    const { lines, parts, retranslated } = this.linesOf(entity, account, revision);
    for (let part = 0; part < parts.period.length; part++)
      builder.add(
        ...([ACTUAL_ID, entity.id, account, parts.period[part]!, parts.combination[part]!] as const),
        ...([lines.kind[lineOf(parts, part)]!, parts.debit[part]!, parts.credit[part]!] as const),
        ...([quantityOf(lines, parts, part), isFirstPart(parts, part) ? 1 : 0] as const),
      );
    for (const { period, amount, combination: id } of retranslated)
      builder.add(ACTUAL_ID, entity.id, account, period, id, NORMAL, Math.max(amount, 0), Math.max(-amount, 0), 0, 0);
  }

  private linesOf(entity: ScopeEntity, account: number, revision: number | undefined): LinesOfAccount {
    const moved = this.movedAt(this.base.cubeAt(revision), ACTUAL_ID, entity.id);
    const key = [entity.id, account, moved, revision].join('|');
    return kept(this.kept.parts, key, KEPT_ACCOUNTS, () => this.tellApart(entity, account, revision));
  }

  private tellApart(entity: ScopeEntity, account: number, revision: number | undefined): LinesOfAccount {
    const lines = this.source.linesOf(entity.id, account, revision);
    const { fields, agedBy } = this.detail;
    const { nature } = this.accountOf.get(account)!;
    const isAged = fields.includes('due_day') && (nature === 'asset' || nature === 'liability');
    const isDebit = naturalOrientation(nature) === 'debit';
    const partnerOf = (combination: number) =>
      attributesOf(this.base.combinations.textOf(combination)).get('partner') ?? '';
    if (!isAged) {
      const combination = this.combinationsOf(entity, lines);
      const { period, debit, credit } = lines;
      return { lines, parts: { line: undefined, period, debit, credit, combination }, retranslated: [] };
    }
    const items = itemParts(lines, agedBy, isDebit, entity.currency.code, partnerOf);
    const parts: PartColumns = {
      line: Int32Array.from(items, ({ line }) => line),
      period: Int32Array.from(items, ({ period }) => period),
      debit: Float64Array.from(items, ({ debit }) => debit),
      credit: Float64Array.from(items, ({ credit }) => credit),
      combination: Int32Array.from(items, (item) => this.combinationOfPart(entity, lines, item)),
    };
    const changes = atClosingRates(items, lines, entity, this.base.ratesAt(revision));
    const retranslated = changes.map((change) => ({
      ...change,
      combination: this.combinationOfPart(
        entity,
        lines,
        { line: change.line, period: change.period, due: change.due },
        false,
      ),
    }));
    return { lines, parts, retranslated };
  }

  /** The combinations of lines that are each as a whole: what they carry beside is found once for all that carry the same. */
  private combinationsOf(entity: ScopeEntity, lines: LineColumns): Int32Array {
    const { period, date, documentType, kind, combination, words } = lines;
    const byPeriod = new Map<number, Map<number, Beside>>();
    return period.map((at, line) => {
      const place = at * KINDS + (kind[line]! % KINDS);
      const found = byPeriod.get(place) ?? new Map<number, Beside>();
      byPeriod.set(place, found);
      // exact up to some ninety million texts
      const key = date[line]! * words.length + documentType[line]!;
      let beside = found.get(key);
      if (!beside) found.set(key, (beside = this.besidePart(entity, lines, { line, period: at, due: '' }, true)));
      return this.idOf(combination[line]!, beside);
    });
  }

  private combinationOfPart(
    entity: ScopeEntity,
    lines: LineColumns,
    { line, period, due }: Pick<ItemPart, 'line' | 'period' | 'due'>,
    isPosted = true,
  ): number {
    return this.idOf(lines.combination[line]!, this.besidePart(entity, lines, { line, period, due }, isPosted));
  }

  private idOf(base: number, beside: Beside): number {
    return this.kept.idOf(base, this.base.combinations, beside);
  }

  /** What a part of a line carries beside its combination. */
  private besidePart(
    entity: ScopeEntity,
    lines: LineColumns,
    { line, period, due }: Pick<ItemPart, 'line' | 'period' | 'due'>,
    isPosted: boolean,
  ): Beside {
    const { fields } = this.detail;
    const held = this.periodOf(entity, period);
    const isOnDay = isPosted && lines.kind[line]! % KINDS === NORMAL && held?.kind === 'regular';
    const values: Record<LineField, string> = {
      posting_period: held ? this.monthKey(entity, held) : '',
      posting_day: isOnDay ? textOfLine(lines, 'date', line) : '',
      document_type: isPosted ? textOfLine(lines, 'documentType', line) : '',
      due_day: due,
    };
    return this.kept.beside(fields.map((field) => [field, values[field]] as const).filter(([, value]) => value !== ''));
  }

  /** What a month of an entity, and each of the days that its plans are spread over, stand beside combinations as. */
  private timesIn(entity: ScopeEntity, period: FiscalPeriod): { month: Beside; days: readonly Beside[] } {
    const key = `${entity.id}.${period.ordinal}`;
    const known = this.times.get(key);
    if (known) return known;
    const ofMonth: Beside['values'] = this.detail.fields.includes('posting_period')
      ? [['posting_period', this.monthKey(entity, period)]]
      : [];
    const days = this.daysOf(entity, period).map((day) => this.kept.beside([...ofMonth, ['posting_day', day]]));
    const made = { month: this.kept.beside(ofMonth), days };
    this.times.set(key, made);
    return made;
  }

  /** The month of the scope in which a period of an entity ends. */
  private monthKey({ id }: ScopeEntity, { ordinal, key }: FiscalPeriod): string {
    const { members, calendar } = this.detail.scope;
    const member = members.find(({ entity }) => entity.id === id);
    const at = member ? member.endsIn[ordinal]! : -1;
    return calendar.calendar.periods[at]?.key ?? (member ? '' : key);
  }

  private daysOf(entity: ScopeEntity, { kind, start, end }: FiscalPeriod): readonly string[] {
    if (!this.detail.fields.includes('posting_day') || kind !== 'regular') return [];
    const days = this.source.workingDays(entity, start, end);
    return days.length > 0 ? days : daysFrom(start, end);
  }

  private periodOf({ calendar: { calendar, idOf } }: ScopeEntity, id: number): FiscalPeriod | undefined {
    let known = this.periods.get(calendar);
    if (!known) this.periods.set(calendar, (known = new Map(calendar.periods.map((each) => [idOf(each), each]))));
    return known.get(id);
  }

  private readonly times = new Map<string, { month: Beside; days: readonly Beside[] }>();
  private readonly periods = new Map<object, ReadonlyMap<number, FiscalPeriod>>();
}

/** Balances of versions and entities, and lines of accounts for traces, that are kept told apart. */
const KEPT_RUNS = 300; // 20 to 2,000
const KEPT_ACCOUNTS = 20; // 5 to 200

const lineOf = ({ line }: PartColumns, part: number): number => (line ? line[part]! : part);

/** The quantity of a line stands with the first of its parts. */
const quantityOf = (lines: LineColumns, parts: PartColumns, part: number): number =>
  isFirstPart(parts, part) ? lines.quantity[lineOf(parts, part)]! : 0;

const isFirstPart = ({ line }: PartColumns, part: number): boolean =>
  !line || part === 0 || line[part - 1] !== line[part];
