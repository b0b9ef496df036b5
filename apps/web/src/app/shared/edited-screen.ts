import { ChangeDetectionStrategy, Component, effect, input, untracked } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import type { AllocationDocument, CompletionDocument } from '@margin-lens/core';
import type { EditedByDimension } from './edited-by-dimension';
import { EmptyState } from './empty-state';
import { Screen } from './screen';
import { SaveKey } from './save-key';

/** The screen of documents that are edited in a form: the list of them, what is open, and what can be done with it. */
@Component({
  selector: 'ml-edited-screen',
  imports: [SaveKey, EmptyState, MatButtonModule, RouterLink, Screen],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ml-screen
      [heading]="heading()"
      [says]="says()"
      [reading]="'Reading ' + heading().toLowerCase()"
      [isLoading]="store().makings().isLoading || store().isSaving()"
      [error]="store().makings().error"
      (retry)="store().retry()"
    >
      <div slot="actions">
        @if (store().draft()) {
          <span class="thin state" role="status" data-testid="state">{{ store().isChanged() ? 'Not saved' : '' }}</span>
          @if (!store().isNew()) {
            <button matButton type="button" (click)="store().putAway()" data-testid="put-away">Put it away</button>
          }
          <button matButton="outlined" type="button" [disabled]="!store().isChanged()" (click)="store().discard()">
            Discard
          </button>
          <button
            matButton="filled"
            type="button"
            mlSaveKey
            data-testid="save"
            [disabled]="!store().isChanged() || store().isSaving()"
            (click)="store().save()"
          >
            Save
          </button>
        }
        <a matButton="outlined" [routerLink]="store().path + '/new'" queryParamsHandling="merge" data-testid="new">
          New
        </a>
      </div>
      <div class="sides">
        <nav [attr.aria-label]="heading()">
          @for (each of store().list(); track each.id) {
            <a
              matButton
              class="entry"
              [routerLink]="[store().path, each.id]"
              queryParamsHandling="merge"
              [attr.aria-current]="each.id === id() ? 'page' : null"
              >{{ each.name }}</a
            >
          }
        </nav>
        <div class="scroll" tabindex="0" role="group" [attr.aria-label]="heading()">
          @if (store().error(); as error) {
            <p class="adverse" role="alert" data-testid="wrong">{{ error.message }} {{ error.hint }}</p>
          }
          @if (store().draft()) {
            @if (store().conflict(); as conflict) {
              <p class="adverse" role="alert" data-testid="conflict">
                {{ conflict.person }} saved this meanwhile.
                <button matButton="outlined" type="button" (click)="store().save(conflict.base)">
                  Save mine over it
                </button>
              </p>
            }
            <ng-content />
          } @else if (store().list().length === 0 && !store().makings().isLoading) {
            <ml-empty-state [heading]="emptyHeading()" [says]="emptySays()" data-testid="empty" />
          }
        </div>
      </div>
    </ml-screen>
  `,
  styleUrls: ['./screen-frame.scss', './edited-screen.scss'],
})
export class EditedScreen {
  readonly store = input.required<EditedByDimension<AllocationDocument> | EditedByDimension<CompletionDocument>>();
  /** Of the address: the document that is open, or `new`. */
  readonly id = input<string>();
  readonly heading = input.required<string>();
  readonly says = input.required<string>();
  readonly emptyHeading = input.required<string>();
  readonly emptySays = input.required<string>();

  constructor() {
    effect(() => {
      const id = this.id();
      const store = this.store();
      store.list();
      store.dimensions();
      untracked(() => store.follow(id));
    });
  }
}
