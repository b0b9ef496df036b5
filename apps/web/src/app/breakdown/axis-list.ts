import { CdkDrag, CdkDropList, type CdkDragDrop } from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatDividerModule } from '@angular/material/divider';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import {
  AGE,
  changeAxis,
  newAxis,
  putAxis,
  removeAxis,
  replaceAxis,
  setAges,
  USUAL_AGES,
  type Ages,
  type Axis,
  type Side,
} from '@margin-lens/core/shown';
import { AgesDialog } from './ages-dialog';
import { BreakdownStore, type OfferedField } from './breakdown-store';

/** How many values may stand alone. */
const TOPS = [3, 5, 10, 20, 50];

const ORDERS: readonly { name: string; order: Axis['order'] }[] = [
  { name: 'As they stand in their tree', order: undefined },
  { name: 'The largest first', order: { by: 'column' } },
  { name: 'The smallest first', order: { by: 'column', ascending: true } },
  { name: 'By name', order: { by: 'name' } },
];

/** The axes of one side, in words that open what can be done with each; they are dragged among each other and across. */
@Component({
  selector: 'ml-axis-list',
  imports: [CdkDrag, CdkDropList, MatButtonModule, MatDividerModule, MatIconModule, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span
      class="axes"
      cdkDropList
      cdkDropListOrientation="mixed"
      [id]="idAt(place(), side())"
      [cdkDropListConnectedTo]="connected"
      [cdkDropListData]="side()"
      (cdkDropListDropped)="drop($event)"
      [attr.aria-label]="side() === 'down' ? 'Down the page' : 'Across the page'"
      role="group"
    >
      <span class="word">{{ words().before }}</span>
      @for (axis of axes(); track axis.by; let at = $index) {
        <span class="axis" cdkDrag [cdkDragData]="axis">
          @if (at > 0) {
            <span class="word">›</span>
          }
          <button
            matButton
            type="button"
            class="plain quiet"
            [matMenuTriggerFor]="ways"
            [matMenuTriggerData]="{ axis, at }"
            [attr.data-testid]="'axis-' + axis.by"
          >
            {{ store.nameOf(axis.by) }}
            @if (axis.top; as top) {
              <span class="top">first {{ top }}</span>
            }
            <mat-icon iconPositionEnd svgIcon="open" />
          </button>
        </span>
      }
      @if (store.others().length > 0) {
        <button
          matIconButton
          type="button"
          class="add"
          [matMenuTriggerFor]="add"
          [attr.aria-label]="words().add"
          [title]="words().add"
          [attr.data-testid]="'add-' + side()"
        >
          <mat-icon svgIcon="add" />
        </button>
      }
    </span>
    <mat-menu #add="matMenu">
      <ng-template matMenuContent>
        @for (field of store.others(); track field.by) {
          <button mat-menu-item type="button" (click)="put(field)">
            {{ field.name }} <span class="count">{{ field.isOfLines ? '' : field.values }}</span>
          </button>
        }
      </ng-template>
    </mat-menu>
    <mat-menu #ways="matMenu">
      <ng-template matMenuContent let-axis="axis" let-at="at">
        @if (store.others().length > 0) {
          <button mat-menu-item type="button" [matMenuTriggerFor]="instead" [matMenuTriggerData]="{ axis }">
            Another field instead
          </button>
        }
        <button mat-menu-item type="button" [matMenuTriggerFor]="tops" [matMenuTriggerData]="{ axis }">
          How many stand alone
        </button>
        <button mat-menu-item type="button" [matMenuTriggerFor]="orders" [matMenuTriggerData]="{ axis }">Order</button>
        @if (axis.by === AGE) {
          <button mat-menu-item type="button" (click)="askAges()">Days and what they count from…</button>
        }
        <mat-divider />
        @if (at > 0) {
          <button mat-menu-item type="button" (click)="move(axis, at - 1)">One place further out</button>
        }
        @if (at < axes().length - 1) {
          <button mat-menu-item type="button" (click)="move(axis, at + 2)">One place further in</button>
        }
        <button mat-menu-item type="button" (click)="moveOver(axis)">{{ words().over }}</button>
        <button mat-menu-item type="button" (click)="remove(axis)">Take it away</button>
      </ng-template>
    </mat-menu>
    <mat-menu #instead="matMenu">
      <ng-template matMenuContent let-axis="axis">
        @for (field of store.others(); track field.by) {
          <button mat-menu-item type="button" (click)="replace(axis, field)">{{ field.name }}</button>
        }
      </ng-template>
    </mat-menu>
    <mat-menu #tops="matMenu">
      <ng-template matMenuContent let-axis="axis">
        <button mat-menu-item type="button" (click)="setTop(axis, undefined)">All of them</button>
        @for (top of TOPS; track top) {
          <button mat-menu-item type="button" (click)="setTop(axis, top)">
            The first {{ top }}, the rest together
          </button>
        }
      </ng-template>
    </mat-menu>
    <mat-menu #orders="matMenu">
      <ng-template matMenuContent let-axis="axis">
        @for (each of ORDERS; track each.name) {
          <button mat-menu-item type="button" (click)="setOrder(axis, each.order)">{{ each.name }}</button>
        }
      </ng-template>
    </mat-menu>
  `,
  styleUrl: './axis-list.scss',
})
export class AxisList {
  readonly side = input.required<Side>();
  readonly place = input.required<'line' | 'corner'>();

  protected readonly store = inject(BreakdownStore);
  private readonly dialog = inject(MatDialog);
  protected readonly idAt = (place: 'line' | 'corner', side: Side) => `axes-${place}-${side}`;
  /** What is dragged may go to any of the lists. */
  protected readonly connected = (['line', 'corner'] as const).flatMap((place) =>
    (['down', 'across'] as const).map((side) => this.idAt(place, side)),
  );
  protected readonly AGE = AGE;
  protected readonly TOPS = TOPS;
  protected readonly ORDERS = ORDERS;
  protected readonly axes = computed(() => this.store.definition()?.[this.side()] ?? []);
  protected readonly words = computed(() =>
    this.side() === 'down'
      ? { before: 'by', add: 'Break down by another field', over: 'Put it across the page' }
      : { before: 'across', add: 'Put a field across the page', over: 'Put it down the page' },
  );

  protected drop({ item, container, currentIndex }: CdkDragDrop<Side>): void {
    const definition = this.store.definition();
    const axis = item.data as Axis;
    if (!definition) return;
    const side = container.data;
    const from = definition[side].findIndex(({ by }) => by === axis.by);
    // the list counts without what is dragged; the place is counted with it
    const at = from >= 0 && from < currentIndex ? currentIndex + 1 : currentIndex;
    this.store.change(putAxis(definition, axis, { side, at }));
  }

  protected put(field: OfferedField): void {
    const definition = this.store.definition()!;
    const side = this.side();
    this.store.change(putAxis(definition, newAxis(field), { side, at: definition[side].length }));
  }

  protected move(axis: Axis, at: number): void {
    this.store.change(putAxis(this.store.definition()!, axis, { side: this.side(), at }));
  }

  protected moveOver(axis: Axis): void {
    const definition = this.store.definition()!;
    const side = this.side() === 'down' ? 'across' : 'down';
    this.store.change(putAxis(definition, axis, { side, at: definition[side].length }));
  }

  protected replace(axis: Axis, field: OfferedField): void {
    this.store.change(replaceAxis(this.store.definition()!, axis.by, newAxis(field)));
  }

  protected remove(axis: Axis): void {
    this.store.change(removeAxis(this.store.definition()!, axis.by));
  }

  protected askAges(): void {
    const definition = this.store.definition()!;
    const { ages = USUAL_AGES, agedBy = 'due' } = definition;
    this.dialog
      .open<AgesDialog, Ages, Ages>(AgesDialog, { width: '420px', data: { ages, agedBy } })
      .afterClosed()
      .subscribe((asked) => {
        if (asked) this.store.change(setAges(definition, asked));
      });
  }

  protected setTop(axis: Axis, top: number | undefined): void {
    this.store.change(
      changeAxis(this.store.definition()!, axis.by, ({ top: _, ...each }) =>
        top === undefined ? each : { ...each, top },
      ),
    );
  }

  protected setOrder(axis: Axis, order: Axis['order']): void {
    this.store.change(
      changeAxis(this.store.definition()!, axis.by, ({ order: _, ...each }) => (order ? { ...each, order } : each)),
    );
  }
}
