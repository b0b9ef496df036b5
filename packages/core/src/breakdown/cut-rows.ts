import type { Account } from '../account/nature';
import type { DimensionCondition } from '../cube/dimension-condition';
import type { CompiledRow, CompiledRows, Member, RowRule } from '../statement/compiled-row';

/** What of a row counts: postings that meet demands, in accounts that are asked for. */
export interface Cut {
  key: string;
  where: readonly DimensionCondition[];
  accounts: ((number: string) => boolean) | undefined;
}

/** How a row that is seen differs from the one it is cut from. */
export type Seen = Pick<CompiledRow, 'id' | 'label' | 'depth' | 'parent' | 'style' | 'whenEmpty'> &
  Partial<Pick<CompiledRow, 'branch' | 'shareBase'>>;

/**
 * Rows of a layout, each cut down to some postings with all that it is computed from. Rows that are seen stand first; those
 * that they read stand behind them, once a cut.
 */
export class CutRows {
  private readonly seen: (() => CompiledRow)[] = [];
  private readonly hidden: (CompiledRow | undefined)[] = [];
  private readonly placeOf = new Map<string, number>();
  /** Demands of a member under a cut, found once, since books are told apart by them. */
  private readonly wheres = new Map<Member['where'], Map<string, Member['where']>>();

  constructor(
    private readonly from: CompiledRows,
    private readonly accounts: readonly Account[],
  ) {}

  /** How many rows were added that are seen. */
  get size(): number {
    return this.seen.length;
  }

  rowAt = (index: number): CompiledRow => this.from.rows[index]!;

  /** Adds a row that is seen; gives its index. */
  add(row: number, cut: Cut, seen: Seen): number {
    const index = this.seen.length;
    this.seen.push(() => ({ ...this.cut(row, cut), ...seen, index, opened: false, note: '' }));
    return index;
  }

  /** Adds words that head the rows below them. */
  addHeading(row: number, id: string): number {
    const index = this.seen.length;
    const { label } = this.rowAt(row);
    const rule: RowRule = { from: 'nothing' };
    const heading = { ...this.rowAt(row), ...{ index, id, label, depth: 0, parent: undefined, opened: false, rule } };
    this.seen.push(() => ({ ...heading, kind: 'heading', style: 'heading', note: '', whenEmpty: 'keep' }));
    return index;
  }

  /** @param shown how many of the rows that were added are shown; the others stand beside them */
  rows(shown = this.seen.length): CompiledRows {
    const seen = this.seen.map((make) => make());
    const rows = [...seen, ...this.hidden.map((row) => row!)];
    const byId = new Map(rows.map(({ id }, index) => [id, index]));
    return { rows, layoutEnd: shown, misplacedFrom: rows.length, byId, issues: this.from.issues };
  }

  /** A row of the layout with what it reads cut down in the same way. */
  private cut(row: number, cut: Cut): CompiledRow {
    const whole = this.rowAt(row);
    const { variesWith, usage } = whole;
    return {
      ...whole,
      rule: this.cutRule(whole.rule, cut),
      variesWith: variesWith === undefined ? undefined : this.read(variesWith, cut),
      usage: usage === undefined ? undefined : this.read(usage, cut),
    };
  }

  /** Index of a row that another reads. */
  private read(row: number, cut: Cut): number {
    const key = `${row}|${cut.key}`;
    const known = this.placeOf.get(key);
    if (known !== undefined) return known;
    const place = this.hidden.push(undefined) - 1;
    const index = this.seen.length + place;
    this.placeOf.set(key, index);
    const id = cut.key === '' ? `*${this.rowAt(row).id}` : `*${this.rowAt(row).id}.${cut.key}`;
    this.hidden[place] = { ...this.cut(row, cut), id, index, parent: undefined };
    return index;
  }

  private cutRule(rule: RowRule, cut: Cut): RowRule {
    const read = (row: number) => this.read(row, cut);
    switch (rule.from) {
      case 'accounts':
        return { ...rule, members: this.cutMembers(rule.members, cut) };
      case 'rows':
        return { ...rule, terms: rule.terms.map(({ row, sign }) => ({ row: read(row), sign })) };
      case 'ratio':
        return { ...rule, numerator: read(rule.numerator), denominator: read(rule.denominator) };
      case 'formula':
        return { ...rule, rows: new Map([...rule.rows].map(([key, row]) => [key, read(row)])) };
      case 'nothing':
        return rule;
    }
  }

  private cutMembers(members: readonly Member[], cut: Cut): Member[] {
    const { accounts } = cut;
    const counted = accounts ? members.filter(({ account }) => accounts(this.accounts[account]!.number)) : members;
    return counted.map((member) => ({ ...member, where: this.whereOf(member.where, cut) }));
  }

  private whereOf(where: Member['where'], { key, where: demands }: Cut): Member['where'] {
    if (demands.length === 0) return where;
    const known = this.wheres.get(where) ?? new Map<string, Member['where']>();
    this.wheres.set(where, known);
    const found = known.get(key) ?? [...where, ...demands];
    known.set(key, found);
    return found;
  }
}
