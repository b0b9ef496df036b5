import { CdkDrag, CdkDropList, type CdkDragDrop } from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, output } from '@angular/core';
import { PackStore } from './pack-store';

/** The pages of a pack in their order: chosen, moved by drag or by key, added and taken out. */
@Component({
  selector: 'ml-page-list',
  imports: [CdkDrag, CdkDropList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul
      role="listbox"
      aria-label="Pages"
      tabindex="0"
      cdkDropList
      [attr.aria-activedescendant]="store.chosen() ? 'page-' + store.chosen() : null"
      (cdkDropListDropped)="drop($event)"
      (keydown)="onKey($event)"
      data-testid="pages"
    >
      @for (page of pages(); track page.id) {
        <li
          role="option"
          cdkDrag
          cdkDragLockAxis="y"
          [id]="'page-' + page.id"
          [class.follows]="page.follows"
          [class.section]="page.kind === 'section'"
          [attr.aria-selected]="page.id === store.chosen()"
          (click)="store.choose(page.id)"
          (dblclick)="opened.emit()"
        >
          <span class="number">{{ page.sheet || '' }}</span>
          <span class="words">
            {{ page.title }}
            <small [title]="page.says">{{ page.says }}</small>
            @for (each of page.differs; track each) {
              <small class="differs">{{ each }}</small>
            }
            @if (page.problem) {
              <small class="open" [title]="page.problem">cannot be made</small>
            }
            @for (each of page.bound; track $index) {
              <small class="open">{{ each.says }}</small>
            }
            @for (each of page.open; track each) {
              <small class="open">{{ each }}</small>
            }
          </span>
        </li>
      }
    </ul>
  `,
  styleUrl: './page-list.scss',
})
export class PageList {
  /** Enter, or a double click: what the chosen page shows is to be changed. */
  readonly opened = output();
  /** Insert: a page is to be added. */
  readonly wanted = output();

  protected readonly store = inject(PackStore);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  /** Pages as they stand in the form, with what is known of each as it was made last. */
  protected readonly pages = computed(() => {
    const { view } = this.store.preview();
    const made = new Map(view?.pages.map((page) => [page.id, page]));
    // a page that is read for another says so by that in which it differs
    const bound = (view?.bound ?? []).filter(({ by, isOther }) => isOther && by === 'words');
    return this.store.pages().map((page) => {
      const { id, kind, title, follows } = page;
      const known = made.get(id);
      return {
        ...{
          id,
          kind,
          follows: follows === true,
          title: title || known?.title || this.store.nameOf(page),
          sheet: known?.sheet ?? 0,
        },
        bound: bound.filter((each) => each.page === id),
        ...{ says: known?.says ?? '', differs: known?.differs ?? [], open: known?.open ?? [], problem: known?.problem },
      };
    });
  });

  focus(): void {
    this.host.nativeElement.querySelector<HTMLElement>('ul')?.focus();
  }

  protected drop({ previousIndex, currentIndex }: CdkDragDrop<unknown>): void {
    this.store.move(previousIndex, currentIndex);
  }

  protected onKey(event: KeyboardEvent): void {
    const at = this.store.placeOf(this.store.chosen());
    const by = event.key === 'ArrowUp' ? -1 : 1;
    switch (event.key) {
      case 'ArrowUp':
      case 'ArrowDown':
        if (event.altKey) this.store.move(at, at + by);
        else this.store.turn(by);
        this.reveal();
        break;
      case 'Home':
      case 'End': {
        const page = this.store.pages().at(event.key === 'Home' ? 0 : -1);
        if (page) this.store.choose(page.id);
        this.reveal();
        break;
      }
      case 'Enter':
        this.opened.emit();
        break;
      case 'Insert':
        this.wanted.emit();
        break;
      case 'Delete':
        if (this.store.chosen()) this.store.remove(this.store.chosen()!);
        break;
      default:
        return;
    }
    event.preventDefault();
  }

  private reveal(): void {
    this.host.nativeElement.querySelector(`#page-${this.store.chosen()}`)?.scrollIntoView({ block: 'nearest' });
  }
}
