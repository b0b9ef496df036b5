import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { MatAutocompleteModule, type MatAutocompleteSelectedEvent } from '@angular/material/autocomplete';
import { MatChipsModule } from '@angular/material/chips';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';

export interface Partner {
  code: string;
  name: string;
}

/** Partners offered at a time. */
const OFFERED = 12;

/** Some partners as chips, found by code or name. */
@Component({
  selector: 'ml-partners-field',
  imports: [MatAutocompleteModule, MatChipsModule, MatFormFieldModule, MatIconModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-form-field>
      <mat-label>Partners</mat-label>
      <span class="line">
        <mat-chip-grid #chips aria-label="Partners">
          @for (each of chosen(); track each.code) {
            <mat-chip-row [title]="each.code" (removed)="remove(each.code)">
              {{ each.name }}
              <button matChipRemove type="button" [attr.aria-label]="'Remove ' + each.name">
                <mat-icon svgIcon="close" />
              </button>
            </mat-chip-row>
          }
        </mat-chip-grid>
        <input
          aria-label="Add a partner"
          [placeholder]="codes().length === 0 ? 'any' : 'or…'"
          [matChipInputFor]="chips"
          [matAutocomplete]="list"
          #field
          (input)="typed.set(field.value)"
          (focus)="typed.set(field.value)"
        />
      </span>
      <mat-autocomplete #list="matAutocomplete" autoActiveFirstOption (optionSelected)="choose(field, $event)">
        @for (each of offered(); track each.code) {
          <mat-option [value]="each.code"
            >{{ each.name }} <span class="thin">{{ each.code }}</span></mat-option
          >
        }
      </mat-autocomplete>
    </mat-form-field>
  `,
  styles: `
    .line {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 0 4px;
    }
    :host {
      display: grid;
    }
    mat-chip-grid {
      flex-basis: 100%;
    }
    .line input {
      flex: 1 1 50px;
    }
    .thin {
      color: var(--ink-2);
      font-size: var(--small);
    }
  `,
})
export class PartnersField {
  readonly codes = input.required<readonly string[]>();
  readonly partners = input.required<readonly Partner[]>();
  readonly changed = output<string[]>();

  protected readonly typed = signal('');
  protected readonly chosen = computed(() =>
    this.codes().map((code) => this.partners().find((each) => each.code === code) ?? { code, name: code }),
  );
  protected readonly offered = computed(() => {
    const sought = this.typed().trim().toLowerCase();
    const isMeant = ({ code, name }: Partner) => `${code} ${name}`.toLowerCase().includes(sought);
    return this.partners()
      .filter((each) => !this.codes().includes(each.code) && isMeant(each))
      .slice(0, OFFERED);
  });

  protected choose(field: HTMLInputElement, { option }: MatAutocompleteSelectedEvent): void {
    field.value = '';
    this.typed.set('');
    this.changed.emit([...this.codes(), String(option.value)]);
  }

  protected remove(code: string): void {
    this.changed.emit(this.codes().filter((each) => each !== code));
  }
}
