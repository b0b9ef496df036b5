import type { Issue } from '../issue/issue';
import type { PostingContext, PostingEntity, PostingPeriod } from './posting-context';
import { PostingRowReader } from './posting-row';
import { FIGURE_COLUMNS, FIGURES_FILE, REQUIRED_FIGURE_COLUMNS } from './resources';

/** A figure of a plan, forecast or branch. Units: minor units, debit positive; quantity in 1/10,000. */
export interface FigureRow {
  version: number;
  entity: PostingEntity;
  account: number;
  period: PostingPeriod;
  amount: number;
  quantity: number;
  combination: string;
}

/** Checks the rows of figures.csv and turns their natural sign into debit positive. */
export class FigureRowReader extends PostingRowReader {
  constructor(context: PostingContext, report: (found: Issue) => void) {
    super(FIGURES_FILE, context, report);
  }

  open(names: readonly string[]): boolean {
    return this.openWith(names, FIGURE_COLUMNS, REQUIRED_FIGURE_COLUMNS);
  }

  read(fields: readonly string[], line: number): FigureRow | undefined {
    if (!this.begin(fields, line)) return undefined;
    const version = this.lookUp('version', this.context.versions, 'versions.csv');
    const entity = this.lookUp('entity', this.context.entities, 'entities.csv');
    const account = this.lookUp('account', this.context.accounts, 'accounts.csv');
    const combination = this.combination();
    const quantity = this.quantity();
    if (version === undefined || !entity || !account) return undefined;
    const key = this.text('period');
    const period = entity.calendar.ofKey(key);
    if (!period)
      return this.fail('CORE_REFERENCE_UNKNOWN', { what: 'period', text: key, file: 'calendars.csv' }, 'period');
    const natural = this.amount('amount', entity.digits, entity.currency);
    if (this.failed) return undefined;
    return {
      version,
      entity,
      account: account.id,
      period,
      amount: account.naturalSign * natural + 0,
      quantity,
      combination,
    };
  }
}
