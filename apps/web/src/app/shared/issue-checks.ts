import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { MatAutocompleteModule } from '@angular/material/autocomplete';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { RouterLink } from '@angular/router';
import { catchError, map, of } from 'rxjs';
import type { IssueCheck } from '@margin-lens/contract';
import { Api } from './api';

/** What has to be so before figures are issued: what is done, what is open, with whom, and where it is mended. */
@Component({
  selector: 'ml-issue-checks',
  imports: [MatAutocompleteModule, MatButtonModule, MatFormFieldModule, MatInputModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="sum" role="status" data-testid="ready" [class.ready]="open() === 0">
      <span class="thin">Ready to issue?</span>
      <strong>{{ open() === 0 ? 'Nothing is open' : open() + ' of ' + checks().length + ' are open' }}</strong>
    </p>
    <ul>
      @for (each of checks(); track $index) {
        <li [attr.data-check]="each.check">
          <span [class.favourable]="each.isDone" [class.adverse]="!each.isDone" aria-hidden="true">{{
            each.isDone ? '✓' : '!'
          }}</span>
          <span>
            @if (each.isDone) {
              {{ each.name }}
            } @else if (each.path) {
              <a matButton class="plain" [routerLink]="each.path" queryParamsHandling="merge">{{ each.name }}</a>
            } @else {
              <button matButton class="plain" type="button" (click)="pageChosen.emit(each.page)">
                {{ each.name }}
              </button>
            }
            <span class="visually-hidden">{{ each.isDone ? 'done' : 'open' }}</span>
            @for (line of each.says; track $index) {
              <small>{{ line }}</small>
            }
          </span>
          @if (each.page === '' && naming() === each.check) {
            <mat-form-field class="name">
              <mat-label>Owner</mat-label>
              <input
                matInput
                #owner
                [value]="each.owner"
                [matAutocomplete]="names"
                (keydown.enter)="name(each.check, owner.value)"
                (keydown.escape)="naming.set(undefined)"
                (input)="typed.set(owner.value)"
                data-testid="owner"
              />
              <mat-autocomplete #names="matAutocomplete" (optionSelected)="name(each.check, $event.option.value)">
                @for (person of offered(); track person) {
                  <mat-option [value]="person">{{ person }}</mat-option>
                }
              </mat-autocomplete>
            </mat-form-field>
          } @else if (each.page === '') {
            <button
              matButton
              class="plain quiet"
              type="button"
              title="Who looks after it"
              [attr.aria-label]="'Owner of: ' + each.name"
              (click)="begin(each)"
            >
              <span [class.thin]="each.owner === ''">{{ each.owner || 'nobody yet' }}</span>
            </button>
          }
        </li>
      }
    </ul>
  `,
  styleUrl: './issue-checks.scss',
})
export class IssueChecks {
  readonly checks = input.required<readonly IssueCheck[]>();
  /** The page of a pack that an open check is of. */
  readonly pageChosen = output<string>();
  /** Who is to look after a check; empty for nobody. */
  readonly named = output<{ check: IssueCheck['check']; owner: string }>();

  private readonly people = toSignal(
    inject(Api)
      .people()
      .pipe(
        map((people) => people.map(({ name }) => name)),
        catchError(() => of<string[]>([])),
      ),
    { initialValue: [] },
  );
  protected readonly open = computed(() => this.checks().filter(({ isDone }) => !isDone).length);
  /** The check whose owner is being named, and what is typed. */
  protected readonly naming = signal<IssueCheck['check'] | undefined>(undefined);
  protected readonly typed = signal('');
  /** People of the workspace and names that stand here already, as far as they fit what is typed. */
  protected readonly offered = computed(() => {
    const names = [...this.people(), ...this.checks().map(({ owner }) => owner)].filter(Boolean);
    const text = this.typed().trim().toLowerCase();
    return [...new Set(names)].filter((name) => name.toLowerCase().includes(text)).sort();
  });

  private readonly field = viewChild<ElementRef<HTMLInputElement>>('owner');

  constructor() {
    effect(() => this.field()?.nativeElement.focus());
  }

  protected begin({ check }: IssueCheck): void {
    this.typed.set('');
    this.naming.set(check);
  }

  protected name(check: IssueCheck['check'], owner: string): void {
    this.naming.set(undefined);
    this.named.emit({ check, owner: owner.trim() });
  }
}
