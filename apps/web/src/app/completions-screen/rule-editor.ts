import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import type { Account, AccountSet, CompletionDocument } from '@margin-lens/core';
import { AccountSetField } from '../shape/account-set-field';
import { MoveButtons } from '../shared/move-buttons';
import type { TreeValue } from '../shared/edited-by-dimension';
import { PartnersField, type Partner } from './partners-field';

export type Rule = CompletionDocument['rules'][number];

const NO_ACCOUNTS: AccountSet = { include: [] };

/** One rule: which postings are meant, the value that they are read with, and what it takes. */
@Component({
  selector: 'ml-rule-editor',
  imports: [AccountSetField, MoveButtons, MatFormFieldModule, MatInputModule, MatSelectModule, PartnersField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="rule" role="group" [attr.aria-label]="'Rule ' + (place() + 1)">
      <span class="place">{{ place() + 1 }}</span>
      <ml-account-set-field
        label="Accounts"
        [set]="rule().accounts ?? NO_ACCOUNTS"
        [accounts]="accounts()"
        (changed)="putAccounts($event)"
      />
      <ml-partners-field
        [codes]="rule().partners ?? []"
        [partners]="partners()"
        (changed)="put({ partners: $event.length > 0 ? $event : undefined })"
      />
      <mat-form-field class="text">
        <mat-label>Text holds</mat-label>
        <input
          matInput
          placeholder="any"
          [value]="rule().text ?? ''"
          (change)="put({ text: $any($event.target).value.trim() || undefined })"
          data-testid="text"
        />
      </mat-form-field>
      <mat-form-field>
        <mat-label>are read as</mat-label>
        <mat-select [value]="rule().value" (valueChange)="put({ value: $event })" data-testid="value">
          @for (each of values(); track each.value) {
            <mat-option [value]="each.value" [style.padding-left.px]="16 + 14 * each.depth">{{ each.name }}</mat-option>
          }
        </mat-select>
      </mat-form-field>
      <span class="takes" data-testid="takes" title="Debits and credits in the months below">{{ takes() }}</span>
      <ml-move-buttons
        class="acts"
        what="rule"
        [isFirst]="place() === 0"
        [isLast]="isLast()"
        (moved)="moved.emit($event)"
        (removed)="removed.emit()"
      />
    </div>
  `,
  styles: `
    .rule {
      display: grid;
      grid-template-columns:
        20px minmax(250px, 2fr) minmax(150px, 1.3fr) minmax(100px, 0.8fr) minmax(130px, 1fr)
        110px auto;
      align-items: start;
      gap: 6px 10px;
      padding: 8px 0;
      border-bottom: 1px solid var(--rule);
    }
    ml-account-set-field {
      grid-template-columns: repeat(auto-fit, minmax(110px, 1fr));
      align-items: start;
    }
    .place,
    .takes,
    .acts {
      margin-top: 22px;
    }
    .place {
      color: var(--ink-2);
      font-weight: 600;
    }
    .takes {
      text-align: right;
      font-variant-numeric: tabular-nums;
      white-space: nowrap;
    }
    .acts {
      margin-top: 16px;
    }
    /* two lines where there is no room for one */
    @container (max-width: 920px) {
      .rule {
        grid-template-columns: 20px repeat(4, minmax(0, 1fr));
      }
      ml-account-set-field,
      ml-partners-field {
        grid-column: span 2;
      }
      .text {
        grid-column: 2;
      }
      .acts {
        justify-self: end;
      }
    }
  `,
})
export class RuleEditor {
  readonly rule = input.required<Rule>();
  readonly place = input.required<number>();
  readonly isLast = input.required<boolean>();
  readonly values = input.required<readonly TreeValue[]>();
  readonly accounts = input.required<readonly Account[]>();
  readonly partners = input.required<readonly Partner[]>();
  /** What it takes, in words. */
  readonly takes = input.required<string>();
  readonly changed = output<Rule>();
  readonly moved = output<-1 | 1>();
  readonly removed = output();

  protected readonly NO_ACCOUNTS = NO_ACCOUNTS;

  protected put(part: { [K in keyof Rule]?: Rule[K] | undefined }): void {
    const rule = { ...this.rule(), ...part };
    this.changed.emit(Object.fromEntries(Object.entries(rule).filter(([, held]) => held !== undefined)) as Rule);
  }

  protected putAccounts(accounts: AccountSet): void {
    const isNothing = accounts.include.length === 0 && !accounts.exclude?.length;
    this.put({ accounts: isNothing ? undefined : accounts });
  }
}
