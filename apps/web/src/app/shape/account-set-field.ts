import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { MatChipsModule } from '@angular/material/chips';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatAutocompleteModule, type MatAutocompleteSelectedEvent } from '@angular/material/autocomplete';
import {
  readSelector,
  selects,
  selectorText,
  type Account,
  type AccountSelector,
  type AccountSet,
} from '@margin-lens/core';

const SHOWN = 12;

/** A set of accounts as chips: numbers, ranges, patterns, headings, roles; those behind "but not" are left out. */
@Component({
  selector: 'ml-account-set-field',
  imports: [MatAutocompleteModule, MatChipsModule, MatFormFieldModule, MatIconModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (part of parts(); track part.key) {
      <mat-form-field>
        <mat-label>{{ part.key === 'include' ? label() : 'but not' }}</mat-label>
        <span class="line">
          <mat-chip-grid #chips [attr.aria-label]="part.key === 'include' ? label() : 'Accounts left out'">
            @for (rule of part.rules; track rule.text; let at = $index) {
              <mat-chip-row
                [class.none]="rule.count === 0"
                [title]="rule.count + ' accounts'"
                (removed)="remove(part.key, at)"
              >
                {{ rule.text }}
                <button matChipRemove type="button" [attr.aria-label]="'Remove ' + rule.text">
                  <mat-icon svgIcon="close" />
                </button>
              </mat-chip-row>
            }
          </mat-chip-grid>
          <input
            [attr.aria-label]="part.key === 'include' ? 'Add accounts' : 'Leave out accounts'"
            [placeholder]="part.key === 'include' ? 'account, range, heading…' : 'leave out…'"
            [matChipInputFor]="chips"
            [matAutocomplete]="list"
            #field
            (input)="typed.set({ key: part.key, text: field.value })"
            (focus)="typed.set({ key: part.key, text: field.value })"
            (keydown.enter)="enter(part.key, field, $event)"
          />
        </span>
        <mat-autocomplete #list="matAutocomplete" (optionSelected)="choose(part.key, field, $event)">
          @for (option of options(); track option.text) {
            <mat-option [value]="option.text">
              {{ option.text }} <span class="thin">{{ option.says }}</span>
            </mat-option>
          }
        </mat-autocomplete>
      </mat-form-field>
    }
    @if (unknown(); as text) {
      <p class="problem" role="alert">The chart has nothing called “{{ text }}”.</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 6px;
    }
    .none {
      --mat-chip-elevated-container-color: var(--brass-soft);
      --mat-chip-outline-color: var(--brass);
    }
    .line {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 0 4px;
    }
    mat-chip-grid {
      flex-basis: 100%;
    }
    .line input {
      flex: 1 1 80px;
      text-overflow: ellipsis;
    }
    .thin {
      color: var(--ink-2);
      font-size: var(--small);
    }
    .problem {
      margin-top: 3px;
      color: var(--adverse);
    }
  `,
})
export class AccountSetField {
  readonly label = input.required<string>();
  readonly set = input.required<AccountSet>();
  readonly accounts = input.required<readonly Account[]>();
  readonly changed = output<AccountSet>();

  protected readonly typed = signal<{ key: 'include' | 'exclude'; text: string }>({ key: 'include', text: '' });
  protected readonly unknown = signal<string | undefined>(undefined);
  protected readonly parts = computed(() =>
    (['include', 'exclude'] as const)
      .map((key) => ({
        key,
        rules: (this.set()[key] ?? []).map((rule) => ({ text: selectorText(rule), count: this.countOf(rule) })),
      }))
      // nothing can be left out of nothing
      .filter(({ key, rules }) => key === 'include' || rules.length > 0 || this.set().include.length > 0),
  );

  protected readonly options = computed(() => {
    const words = this.typed().text.toLowerCase().split(/\s+/).filter(Boolean);
    if (words.length === 0) return [];
    const accounts = this.accounts();
    const headings = [
      ...new Set(accounts.flatMap(({ heading, subHeading }) => [heading, subHeading && `${heading} › ${subHeading}`])),
    ].filter(Boolean);
    const roles = [...new Set(accounts.map(({ role }) => role))].filter(Boolean);
    const all = [
      ...headings.map((text) => ({ text, says: 'heading' })),
      ...accounts.map(({ number, name }) => ({ text: `${number} ${name}`, says: '' })),
      ...roles.map((role) => ({ text: `role ${role}`, says: 'role' })),
    ];
    return all.filter(({ text }) => words.every((word) => text.toLowerCase().includes(word))).slice(0, SHOWN);
  });

  private countOf(rule: AccountSelector): number {
    return this.accounts().filter((account) => selectsOne(rule, account)).length;
  }

  protected choose(
    key: 'include' | 'exclude',
    field: HTMLInputElement,
    { option }: MatAutocompleteSelectedEvent,
  ): void {
    this.add(key, field, String(option.value));
  }

  protected enter(key: 'include' | 'exclude', field: HTMLInputElement, event: Event): void {
    if (event.defaultPrevented || field.value.trim() === '') return;
    event.preventDefault();
    this.add(key, field, field.value);
  }

  private add(key: 'include' | 'exclude', field: HTMLInputElement, text: string): void {
    const rules = text
      .split(',')
      .map((part) => part.trim())
      .filter(Boolean)
      .map((part) => readSelector(part, this.accounts()) ?? part);
    const unknown = rules.find((rule) => typeof rule === 'string');
    this.unknown.set(typeof unknown === 'string' ? unknown : undefined);
    if (unknown !== undefined) return;
    field.value = '';
    this.typed.set({ key, text: '' });
    this.changed.emit({ ...this.set(), [key]: [...(this.set()[key] ?? []), ...(rules as AccountSelector[])] });
  }

  protected remove(key: 'include' | 'exclude', at: number): void {
    const left = (this.set()[key] ?? []).filter((_, index) => index !== at);
    const { include, exclude }: AccountSet =
      key === 'include' ? { ...this.set(), include: left } : { ...this.set(), exclude: left };
    this.changed.emit({ include, ...(exclude && exclude.length > 0 ? { exclude } : {}) });
  }
}

const selectsOne = (rule: AccountSelector, account: Account) => selects({ include: [rule] }, account);
