import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { catchError, map, of } from 'rxjs';
import type { ErrorReply, ProposedRules } from '@margin-lens/contract';
import { GroupApi } from '../shared/group-api';
import { SetupApi } from '../shared/setup-api';
import type { GroupAsked } from '../shared/group-asked';
import { KeepRows } from '../shared/keep-rows';

type Account = ProposedRules['alone'][number];

const KINDS = { balances: 'balances', income_expense: 'income and expense' } as const;

/** Standing rules that lines of a group speak for: those that are ticked are kept. */
@Component({
  selector: 'ml-rules-dialog',
  imports: [MatButtonModule, MatCheckboxModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Rules that lines speak for</h2>
    <mat-dialog-content>
      @if (answer(); as answer) {
        @if (answer.error) {
          <p class="adverse" role="alert">{{ answer.error }}</p>
        } @else if (rules().length === 0) {
          <p data-testid="none">
            All accounts in which entities of the group name each other on both sides stand in a rule.
          </p>
        }
        @for (rule of rules(); track rule.name) {
          <mat-checkbox [checked]="rule.isTicked" (change)="tick(rule.name)">
            <strong>{{ rule.name }}</strong> · {{ rule.kind }}, {{ rule.pairs }}
            <span class="thin">{{ rule.meets }}</span>
          </mat-checkbox>
        }
        @if (alone(); as alone) {
          <p class="thin" data-testid="alone">Of one side alone, so that nothing meets it: {{ alone }}.</p>
        }
      } @else {
        <p class="thin">Looking at who names whom …</p>
      }
      @if (keeping.problem(); as problem) {
        <p class="adverse" role="alert">{{ problem }}</p>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton="outlined" type="button" mat-dialog-close>Cancel</button>
      <button
        matButton="filled"
        type="button"
        [disabled]="ticked().length === 0 || keeping.isSaving()"
        (click)="keep()"
      >
        Keep
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    mat-checkbox {
      display: block;
      padding: 4px 0;
    }
    .thin {
      display: block;
      color: var(--ink-2);
      font-size: var(--small);
    }
    .adverse {
      color: var(--adverse);
    }
  `,
})
export class RulesDialog {
  private readonly api = inject(GroupApi);
  private readonly asked = inject<GroupAsked>(MAT_DIALOG_DATA);
  protected readonly keeping = new KeepRows(inject(SetupApi), inject(MatDialogRef), 'standing_rules');

  protected readonly answer = toSignal(
    this.api.proposedRules(this.asked.group, { as_at: this.asked.as_at }).pipe(
      map((proposed) => ({ proposed, error: '' })),
      catchError(({ message, hint }: ErrorReply) => of({ proposed: undefined, error: `${message} ${hint}` })),
    ),
  );
  private readonly off = signal<ReadonlySet<string>>(new Set());
  protected readonly rules = computed(() =>
    (this.answer()?.proposed?.rules ?? []).map((rule) => ({
      name: rule.rule,
      kind: KINDS[rule.kind],
      pairs: rule.pairs === 1 ? 'one pair' : `${rule.pairs} pairs`,
      meets: `${named(rule.accounts)} with ${named(rule.partnerAccounts)}`,
      isTicked: !this.off().has(rule.rule),
    })),
  );
  protected readonly ticked = computed(() => this.rules().filter(({ isTicked }) => isTicked));
  protected readonly canKeep = computed(() => this.ticked().length > 0 && !this.keeping.isSaving());
  protected readonly alone = computed(() => named(this.answer()?.proposed?.alone ?? []));

  protected tick(name: string): void {
    this.off.update((off) => {
      const changed = new Set(off);
      if (!changed.delete(name)) changed.add(name);
      return changed;
    });
  }

  protected keep(): void {
    const names = new Set(this.ticked().map(({ name }) => name));
    const codes = (accounts: readonly Account[]) => accounts.map(({ number }) => number).join(', ');
    this.keeping.keep(
      (this.answer()?.proposed?.rules ?? [])
        .filter(({ rule }) => names.has(rule))
        .map(({ rule, kind, accounts, partnerAccounts }) => ({
          ...{ group: this.asked.group, rule, kind, side: 'both' },
          ...{ accounts: codes(accounts), partner_accounts: codes(partnerAccounts) },
        })),
    );
  }
}

const named = (accounts: readonly Account[]) => accounts.map(({ number, name }) => `${number} ${name}`).join(', ');
