import { ChangeDetectionStrategy, Component, computed, input, model, output } from '@angular/core';
import { MatAutocompleteModule } from '@angular/material/autocomplete';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { countText, DIMENSION_PREFIX, NATURES, type Additions, type Mapping, type Nature } from '@margin-lens/core';
import type { InspectionView, UnmatchedView } from '@margin-lens/contract';
import { targetWords } from './mapping-text';

/** Codes that a field offers at once. */
const OFFERED = 20;

type CodeName = InspectionView['codes'][string][number];

/** A code of the file that comes into the books, an account with its classification. */
export interface AddedCode {
  code: UnmatchedView;
  name: string;
  nature: Nature | '';
  heading: string;
  subHeading: string;
  role: string;
}

/** That a code of the file is one of ours. */
export interface SaidCode {
  target: string;
  text: string;
  ours: string;
}

const keyOf = ({ target, text }: Pick<UnmatchedView, 'target' | 'text'>): string => `${target} ${text}`;

const isAddable = (target: string): boolean => target === 'account' || target.startsWith(DIMENSION_PREFIX);

/** What comes with a file that is read in some way; what its mapping does not read comes not. */
export function additionsOf(added: readonly AddedCode[], { columns, values }: Mapping): Additions {
  const read = added.filter(({ code: { target, text } }) => target in columns && !values[target]?.[text]);
  return {
    accounts: read
      .filter(({ code }) => code.target === 'account')
      .map(({ code, name, nature, heading, subHeading, role }) => ({
        ...{ number: code.text, name, nature, heading, subHeading, role },
      })),
    values: read
      .filter(({ code }) => code.target.startsWith(DIMENSION_PREFIX))
      .map(({ code, name }) => ({
        dimension: code.target.slice(DIMENSION_PREFIX.length),
        value: code.text,
        name: name || code.text,
      })),
  };
}

/** Codes of a file that the books do not have: each is one of ours under another name, or comes in as new. */
@Component({
  selector: 'ml-unmatched-codes',
  imports: [
    MatAutocompleteModule,
    MatButtonModule,
    MatCheckboxModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './unmatched-codes.html',
  styleUrls: ['./mapping-card.scss', './unmatched-codes.scss'],
})
export class UnmatchedCodes {
  readonly unmatched = input.required<readonly UnmatchedView[]>();
  /** Our codes by target. */
  readonly codes = input.required<InspectionView['codes']>();
  readonly values = input.required<Mapping['values']>();
  readonly added = model.required<readonly AddedCode[]>();
  readonly said = output<SaidCode>();

  protected readonly NATURES = NATURES;

  protected readonly rows = computed(() => {
    const added = new Map(this.added().map((each) => [keyOf(each.code), each]));
    const still = this.unmatched().map((code) => added.get(keyOf(code))?.code ?? code);
    // once they come in, the check misses them no more
    const known = new Set(still.map(keyOf));
    return [...still, ...this.added().flatMap(({ code }) => (known.has(keyOf(code)) ? [] : [code]))].map((code) => ({
      ...{ code, key: keyOf(code), words: targetWords(code.target) },
      times: code.count === 1 ? 'once' : `${countText(code.count)} times`,
      ours: this.values()[code.target]?.[code.text] ?? '',
      isAddable: isAddable(code.target),
      added: added.get(keyOf(code)),
    }));
  });
  /** Kinds of codes of which some are neither ours nor new yet. */
  protected readonly kinds = computed(() => {
    const open = this.rows().filter(({ isAddable, ours, added }) => isAddable && ours === '' && !added);
    return [...new Set(open.map(({ code }) => code.target))].map((target) => {
      const held = open.filter(({ code }) => code.target === target).map(({ code }) => code);
      const words = targetWords(target).toLowerCase();
      const what = target === 'account' ? (held.length === 1 ? 'account' : 'accounts') : `of ${words}`;
      return { target, held, words: `Take ${countText(held.length)} ${what} as new` };
    });
  });

  /** Codes of ours that begin with, or are called, what is typed for one of the file; all of them while nothing is. */
  protected offered({ target }: UnmatchedView, typed: string): readonly CodeName[] {
    const text = typed.trim().toLowerCase();
    return (this.codes()[target] ?? [])
      .filter(({ code, name }) => `${code} ${name}`.toLowerCase().includes(text))
      .slice(0, OFFERED);
  }

  /** Codes come in as new, accounts with the classification that is proposed. */
  protected add(codes: readonly UnmatchedView[]): void {
    this.added.update((before) => [
      ...before,
      ...codes.map((code): AddedCode => ({
        ...{ code, name: code.name || code.text },
        ...(code.classification ?? { nature: '', heading: '', subHeading: '', role: '' }),
      })),
    ]);
  }

  protected drop(code: UnmatchedView): void {
    this.added.update((before) => before.filter((each) => keyOf(each.code) !== keyOf(code)));
  }

  protected change(code: UnmatchedView, change: Partial<AddedCode>): void {
    this.added.update((before) =>
      before.map((each) => (keyOf(each.code) === keyOf(code) ? { ...each, ...change } : each)),
    );
  }
}
