import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { MatFormFieldModule } from '@angular/material/form-field';
import {
  changeRows,
  displaceAccount,
  outlineOf,
  placeAccount,
  readersOfRows,
  splitRow,
  ROW_STYLES,
  ROW_UNITS,
  type AccountSet,
  type Materiality,
  type NamedCondition,
  type NameSpace,
  type Row,
  type RowKind,
  type RowLayout,
} from '@margin-lens/core';
import { AccountSetField } from './account-set-field';
import { ConditionsField } from '../shared/conditions-field';
import { FormulaField } from './formula-field';
import { asKind, withSetting } from './shape-edits';
import { LimitsField } from './limits-field';
import { ShapeStore } from './shape-store';
import { READING_NAMES, ROW_KINDS } from './shape-words';
import { InWordsPipe } from '../shared/in-words-pipe';

const STYLE_NAMES: Record<(typeof ROW_STYLES)[number], string> = {
  detail: 'Detail',
  total: 'Total',
  result: 'Result',
  ratio: 'Ratio',
  heading: 'Heading',
};
const UNIT_NAMES: Record<(typeof ROW_UNITS)[number], string> = {
  money: 'Money',
  percent: 'Percent',
  number: 'Plain number',
  days: 'Days',
  pieces: 'Pieces',
};

/** Quantities that a row of accounts can name; what they are for. */
const QUANTITIES = [
  { key: 'variesWith', name: 'Varies with', none: 'nothing, it is fixed', says: 'A flexed plan follows this quantity' },
  {
    key: 'usage',
    name: 'Uses up',
    none: 'nothing counted',
    says: 'Why tells price and efficiency apart by this quantity',
  },
] as const;

/** The two rows of a ratio. */
const OPERANDS = [
  { key: 'numerator', name: 'Divides', none: '', says: '' },
  { key: 'denominator', name: 'By', none: '', says: '' },
] as const;

/** The settings of the selected rows; of several, those that all can have. */
@Component({
  selector: 'ml-row-editor',
  imports: [
    InWordsPipe,
    AccountSetField,
    ConditionsField,
    FormulaField,
    LimitsField,
    MatCheckboxModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    NgTemplateOutlet,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './row-editor.html',
  styleUrl: './editor.scss',
})
export class RowEditor {
  readonly layout = input.required<RowLayout>();
  readonly ids = input.required<readonly string[]>();

  protected readonly store = inject(ShapeStore);
  protected readonly KINDS = ROW_KINDS;
  protected readonly STYLES = Object.entries(STYLE_NAMES);
  protected readonly OPERANDS = OPERANDS;
  protected readonly QUANTITIES = QUANTITIES;
  protected readonly UNITS = Object.entries(UNIT_NAMES);
  protected readonly READINGS = Object.entries(READING_NAMES);

  protected readonly rows = computed(() => {
    const ids = new Set(this.ids());
    return outlineOf(this.layout().rows)
      .map(({ row }) => row)
      .filter((row) => ids.has(row.id));
  });
  /** The one row that is selected; undefined when there are several. */
  protected readonly row = computed<Row | undefined>(() => (this.rows().length === 1 ? this.rows()[0] : undefined));
  protected readonly others = computed(() => {
    const own = this.row()?.id;
    const hasFigures = (row: Row) => !['heading', 'text', 'line', 'blank'].includes(row.kind) && row.id !== own;
    return outlineOf(this.layout().rows)
      .map(({ row }) => row)
      .filter(hasFigures);
  });
  protected readonly statistics = computed(() => this.others().filter(({ kind }) => kind === 'statistic'));
  protected readonly names = computed<NameSpace>(() => ({
    own: outlineOf(this.layout().rows).map(({ row }) => ({ id: row.id, label: row.label })),
    others: (this.store.makings()?.rowLayouts ?? []).filter(({ id }) => id !== this.layout().id),
  }));
  protected readonly accounts = computed(() => this.store.makings()?.accounts ?? []);
  protected readonly hasFigures = computed(() =>
    this.rows().some(({ kind }) => !['heading', 'text', 'line', 'blank'].includes(kind)),
  );
  protected readonly readers = computed(() => readersOfRows(this.layout(), new Set(this.ids())));

  /** The setting that all selected rows share; undefined when they differ. */
  protected shared<K extends keyof Row>(key: K): Row[K] | undefined {
    const [first, ...rest] = this.rows();
    return first && rest.every((row) => row[key] === first[key]) ? first[key] : undefined;
  }

  protected textOf(event: Event): string {
    return (event.target as HTMLInputElement).value;
  }

  /** Sets a property of all selected rows; typing in one field is one step to undo. */
  protected put(key: string, setting: unknown, label = 'Change rows'): void {
    const ids = new Set(this.ids());
    const typed = typeof setting === 'string' ? `${key}:${[...ids].join()}` : undefined;
    this.store.changeRows(label, (rows) => changeRows(rows, ids, (row) => withSetting(row, key, setting)), typed);
  }

  protected putLabel(label: string): void {
    const ids = new Set(this.ids());
    this.store.changeRows(
      'Rename a row',
      (rows) => changeRows(rows, ids, (row) => ({ ...row, label })),
      `label:${[...ids].join()}`,
    );
  }

  protected putDecimals(text: string): void {
    this.put('decimals', text === '' ? undefined : Number(text));
  }

  protected putLimits(limits: Materiality | undefined): void {
    const ids = new Set(this.ids());
    const change = (rows: readonly Row[]) => changeRows(rows, ids, (row) => withSetting(row, 'materiality', limits));
    this.store.changeRows('Change the limits', change, `limits:${[...ids].join()}`);
  }

  protected putKind(kind: string): void {
    const ids = new Set(this.ids());
    this.store.changeRows('Change the kind of row', (rows, layout) =>
      changeRows(rows, ids, (row) => asKind(row, kind as RowKind, layout)),
    );
  }

  protected putAccounts(accounts: AccountSet): void {
    const ids = new Set(this.ids());
    this.store.changeRows('Change the accounts', (rows) =>
      changeRows(rows, ids, (row) =>
        row.kind === 'accounts' || row.kind === 'statistic' ? { ...row, accounts } : row,
      ),
    );
  }

  protected putWhere(where: NamedCondition[]): void {
    this.put('where', where.length === 0 ? undefined : where, 'Change the condition');
  }

  protected putFormula(formula: string): void {
    const ids = new Set(this.ids());
    this.store.changeRows(
      'Change the formula',
      (rows) => changeRows(rows, ids, (row) => (row.kind === 'formula' ? { ...row, formula } : row)),
      `formula:${[...ids].join()}`,
    );
  }

  protected putOrientation(orientation: string): void {
    this.put('orientation', orientation || undefined);
  }

  protected setRole(role: 'shareBase' | 'result' | 'counterpart', on: boolean): void {
    const row = this.row();
    if (!row) return;
    this.store.change('Change what the layout proves', (documents) => ({
      ...documents,
      rows: withSetting(documents.rows, role, on ? row.id : undefined),
    }));
  }

  protected readonly startsPage = computed(
    () => this.store.documents()?.statement.presentation?.pageBreaks?.includes(this.row()?.id ?? '') ?? false,
  );

  protected putPageBreak(on: boolean): void {
    const id = this.row()?.id;
    if (id === undefined) return;
    this.store.changeLook((look) => {
      const others = (look.pageBreaks ?? []).filter((each) => each !== id);
      const breaks = on ? [...others, id] : others;
      return withSetting(look, 'pageBreaks', breaks.length === 0 ? undefined : breaks);
    });
  }

  protected readonly ways = computed(() => [
    'accounts',
    ...(this.store.makings()?.dimensions ?? []).map(({ name }) => name),
  ]);

  /** Puts a total in the place of the row, with a row for each of its accounts or dimension values. */
  protected split(by: string): void {
    const row = this.row();
    const makings = this.store.makings();
    if (row?.kind !== 'accounts' || !makings || by === '') return;
    this.store.changeRows('Split a row', (rows) => splitRow(rows, row.id, by, makings.accounts, makings.dimensions));
  }

  protected place(number: string, inside: boolean): void {
    const row = this.row();
    const account = this.accounts().find((each) => each.number === number);
    if (!row || !account) return;
    this.store.changeRows(inside ? 'Place an account' : 'Take an account out', (rows) =>
      inside ? placeAccount(rows, row.id, account) : displaceAccount(rows, row.id, account),
    );
  }
}
