import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { dayShort, exactFigure, inWords, countText } from '@margin-lens/core/shown';
import type { JournalView } from '@margin-lens/contract';
import { currencyUnit } from '../shared/currency-unit';
import { momentInWords } from '../shared/moment';
import { JournalSources } from './journal-sources';

const LATE_WORDS = {
  closed: 'Came late: the month had been closed before.',
  later_month: 'Came late: a later month had been posted to before.',
};

/** The whole journal: every line with both sides, what it carries, that debits and credits agree, and its sources. */
@Component({
  selector: 'ml-journal-card',
  imports: [JournalSources],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section data-testid="journal">
      <h2>Journal {{ journal().number }}</h2>
      <p class="thin">{{ about() }}</p>
      @if (late(); as words) {
        <p class="late" data-testid="late">{{ words }}</p>
      }
      <table>
        <thead>
          <tr>
            <th scope="col">Account</th>
            <th scope="col" class="amount">Debit</th>
            <th scope="col" class="amount">Credit</th>
          </tr>
        </thead>
        <tbody>
          @for (line of lines(); track line.id) {
            <tr>
              <td>
                {{ line.account }} {{ line.accountName }}
                @if (line.localAccount) {
                  <span class="carries">own account {{ line.localAccount }}</span>
                }
                <span class="carries">{{ line.carries }}</span>
              </td>
              <td class="amount">{{ line.debitText }}</td>
              <td class="amount">{{ line.creditText }}</td>
            </tr>
          }
        </tbody>
        <tfoot>
          @if (journal().hiddenLines; as hidden) {
            <tr>
              <td colspan="3">
                {{ hidden === 1 ? 'Another line is' : hidden + ' other lines are' }} not yours to see.
              </td>
            </tr>
          } @else {
            <tr>
              <th scope="row" [class.adverse]="!agrees()" [class.favourable]="agrees()">
                {{ agrees() ? '✓ Debits and credits agree' : '! Debits and credits differ' }}
              </th>
              <td class="amount">{{ totals().debit }}</td>
              <td class="amount">{{ totals().credit }}</td>
            </tr>
          }
        </tfoot>
      </table>
      <p class="thin">{{ source() }}</p>
      @defer (on immediate) {
        <ml-journal-sources [journal]="journal()" />
      }
    </section>
  `,
  styleUrl: './journal-card.scss',
})
export class JournalCard {
  readonly journal = input.required<JournalView>();

  protected readonly late = computed(() => {
    const because = this.journal().lateBecause;
    return because && LATE_WORDS[because];
  });
  private readonly unit = computed(() => currencyUnit(this.journal().currency.code));
  private readonly sums = computed(() =>
    this.journal().lines.reduce(
      (sum, { debit, credit }) => ({ debit: sum.debit + debit, credit: sum.credit + credit }),
      {
        debit: 0,
        credit: 0,
      },
    ),
  );
  protected readonly agrees = computed(() => this.sums().debit === this.sums().credit);
  protected readonly totals = computed(() => ({
    debit: this.text(this.sums().debit),
    credit: this.text(this.sums().credit),
  }));
  protected readonly about = computed(() => {
    const { lines, entity, kind, currency } = this.journal();
    const first = lines[0];
    const day = first ? dayShort(first.date) : '';
    return [
      day,
      first?.description,
      inWords(first?.documentType ?? ''),
      first?.document,
      entity.name,
      currency.code,
      kind === 'normal' ? '' : kind,
    ]
      .filter(Boolean)
      .join(' · ');
  });
  protected readonly source = computed(() => {
    const { broughtBy, lines } = this.journal();
    const { fileName, reason, person } = broughtBy;
    const at = momentInWords(broughtBy.at);
    if (fileName === null) return `Made by ${person} on ${at}: ${reason?.replace(/^adjustment: /, '') ?? ''}`;
    const inPackage = /\.(csv|txt|tsv|xls\w)$/i.test(fileName) ? '' : ' of journals.csv';
    const line = lines[0] ? `, line ${countText(lines[0].sourceLine)}${inPackage}` : '';
    return `Brought in from ${fileName}${line} on ${at}`;
  });
  protected readonly lines = computed(() =>
    this.journal().lines.map((line) => ({
      ...line,
      debitText: line.debit === 0 ? '' : this.text(line.debit),
      creditText: line.credit === 0 ? '' : this.text(line.credit),
      carries: [
        ...line.attributes.map(({ text }) => text),
        line.quantity ? `quantity ${line.quantity / 10_000}` : '',
        line.currencyAmount === null
          ? ''
          : exactFigure({ amount: line.currencyAmount, unit: currencyUnit(line.currency) }) + ` ${line.currency}`,
        line.basis === 'books' ? '' : line.basis,
        line.due === '' ? '' : `due ${dayShort(line.due)}`,
        line.settles === '' ? '' : `settles ${line.settles}`,
      ]
        .filter(Boolean)
        .join(' · '),
    })),
  );

  private text(amount: number): string {
    return exactFigure({ amount, unit: this.unit() });
  }
}
