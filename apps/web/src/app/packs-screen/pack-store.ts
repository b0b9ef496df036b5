import { computed, inject, Injectable, signal } from '@angular/core';
import type { PackContext } from '@margin-lens/contract';
import type { PackDocument, PackPage } from '@margin-lens/core';
import { asked } from '../shared/asked';
import { ContextStore } from '../shared/context-store';
import { asAtText } from '../shared/view-context';
import { EditedDocument } from '../shared/edited-document';
import { replacedAt, withoutAt } from '../shared/listed';
import { PacksApi } from './packs-api';
import { kindName } from './page-words';

/** A state of the pack that can be gone back to, and what was done to it. */
interface Past {
  pack: PackDocument;
  did: string;
}

/** Steps that can be taken back. */
const MOST_STEPS = 100;

/** The pack that is open: as it is kept, as it stands in the form, and as it will print. */
@Injectable()
export class PackStore extends EditedDocument<PackDocument> {
  protected readonly kind = 'pack';
  readonly path = '/packs';
  private readonly contextStore = inject(ContextStore);

  private readonly packs = inject(PacksApi);

  private readonly proposing = asked(signal({}).asReadonly(), () => this.packs.proposedPack());
  readonly proposal = this.proposing.state;

  private readonly past = signal<readonly Past[]>([]);
  private readonly ahead = signal<readonly Past[]>([]);
  readonly undoes = computed(() => this.past().at(-1)?.did);
  readonly redoes = computed(() => this.ahead().at(-1)?.did);

  readonly pages = computed(() => this.draft()?.pages ?? []);
  /** Id of the page that is looked at, as the address says, else the first. */
  readonly chosen = computed(() => {
    const id = this.contextStore.params()['page'] as string | undefined;
    return this.pages().find((page) => page.id === id)?.id ?? this.pages()[0]?.id;
  });
  readonly page = computed(() => this.pages().find(({ id }) => id === this.chosen()));

  /** In what the pack is read. */
  readonly context = computed((): PackContext | undefined => {
    const context = this.contextStore.context();
    if (!context) return undefined;
    const { scope, currency, asAt, version, against, demands, allocation, organised, basis } = context;
    return {
      ...{ scope: scope.code, as_at: asAtText(asAt) },
      ...(currency !== scope.currency && { currency }),
      ...(version !== undefined && { version }),
      ...(against !== undefined && { against }),
      ...(demands !== undefined && { where: demands }),
      ...(allocation !== undefined && { allocation }),
      ...(organised !== undefined && { organised }),
      ...(basis !== undefined && { basis }),
    };
  });
  /** The pack as it stands in the form, and in what it is read. */
  readonly question = computed(() => {
    const [pack, context] = [this.draft(), this.context()];
    // a name that is being written anew is none for a moment
    return pack && context && { pack: { ...pack, name: pack.name || 'Pack' }, context, revision: this.revision() };
  });
  private readonly previewing = asked(this.question, ({ pack, context }) => this.packs.previewPack(pack, context));
  readonly preview = this.previewing.state;

  protected listed() {
    return this.workspace()?.packs ?? [];
  }

  protected blank(): PackDocument | undefined {
    return this.proposal().view;
  }

  override follow(id: string | undefined): void {
    if (id !== this.draft()?.id) this.forget();
    super.follow(id);
  }

  override discard(): void {
    this.forget();
    super.discard();
  }

  /** Changes the pack in a way that can be taken back. @param did what was done, in words */
  edit(did: string, part: Partial<PackDocument>): void {
    const pack = this.draft();
    if (!pack) return;
    this.past.update((past) => [...past.slice(1 - MOST_STEPS), { pack, did }]);
    this.ahead.set([]);
    this.change(part);
  }

  undo(): void {
    this.step(this.past, this.ahead);
  }

  redo(): void {
    this.step(this.ahead, this.past);
  }

  choose(id: string): void {
    this.contextStore.setParams({ page: id }, true);
  }

  /** Goes to the page before or behind the one that is looked at. */
  turn(by: -1 | 1): void {
    const next = this.pages()[this.placeOf(this.chosen()) + by];
    if (next) this.choose(next.id);
  }

  /** Puts a page behind the one that is looked at, and goes there. */
  add(page: PackPage): void {
    const pages = [...this.pages()];
    pages.splice(this.placeOf(this.chosen()) + 1, 0, page);
    this.edit('a page added', { pages });
    this.choose(page.id);
  }

  put(page: PackPage): void {
    this.edit('a page changed', { pages: replacedAt(this.pages(), this.placeOf(page.id), page) });
  }

  remove(id: string): void {
    const at = this.placeOf(id);
    const next = this.pages()[at + 1] ?? this.pages()[at - 1];
    this.edit('a page taken out', { pages: withoutAt(this.pages(), at) });
    if (next) this.choose(next.id);
  }

  move(from: number, to: number): void {
    const pages = [...this.pages()];
    if (to < 0 || to >= pages.length || from === to) return;
    const [page] = pages.splice(from, 1);
    pages.splice(to, 0, page!);
    this.edit('a page moved', { pages });
  }

  /** What a page is called before it is made. */
  nameOf(page: PackPage): string {
    if (page.title) return page.title;
    if (page.kind === 'cover') return this.draft()?.name ?? '';
    const { statements = [], breakdowns = [] } = this.workspace() ?? {};
    const of = 'of' in page ? page.of : undefined;
    return [...statements, ...breakdowns].find(({ id }) => id === of)?.name ?? kindName(page.kind);
  }

  placeOf(id: string | undefined): number {
    return this.pages().findIndex((page) => page.id === id);
  }

  retry(): void {
    this.previewing.again();
    this.proposing.again();
  }

  private step(from: typeof this.past, to: typeof this.past): void {
    const last = from().at(-1);
    const pack = this.draft();
    if (!last || !pack) return;
    from.update((steps) => steps.slice(0, -1));
    to.update((steps) => [...steps, { pack, did: last.did }]);
    this.draft.set(last.pack);
  }

  private forget(): void {
    this.past.set([]);
    this.ahead.set([]);
  }
}
