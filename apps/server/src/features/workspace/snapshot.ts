import type { EntityManager } from '@mikro-orm/better-sqlite';
import type { Connection } from '../../store/store';
import {
  partsKey,
  type Books,
  type Completions,
  type DerivedCash,
  type FiscalPeriod,
  type Generation,
  type LineDetail,
  type Part,
  type ScopeEntity,
  type TextMatch,
} from '@margin-lens/core';
import { appError } from '../../base/app-error';
import type { Viewer } from '../../base/viewer';
import { postedAmong } from '../../store/balances';
import { draftsOf, type Drafts } from '../../store/drafts';
import type { Moment } from '../../store/store';
import type { Entity, WorkspaceModel } from './workspace-model';

/** Parts that figures are made from; remarks and drafts move none of them. */
const READ_BY_STATEMENTS: readonly Part[] = ['ledger', 'figures', 'rates', 'ownership', 'masters', 'documents'];

/** How the books of a moment are opened. */
export interface OpenBooks {
  books(): Promise<Books>;
  inDetail(books: Books, detail: LineDetail, entities: readonly ScopeEntity[]): Promise<Books>;
  /** Has ready what the cash basis of entities moves, by their ids. */
  prepareCash(entities: readonly number[]): Promise<(entity: number) => DerivedCash>;
  /** Lines of an entity, by its id, whose text holds one that some rules name. */
  matching(rules: Completions): Promise<(entity: number) => readonly TextMatch[]>;
}

/** The workspace for a viewer at one moment: model, books, documents and records, all of that moment. */
export class Snapshot {
  readonly em: EntityManager;
  readonly db: Connection;
  readonly revision: number;
  readonly newest: number;
  readonly generation: Generation;
  private openedBooks: Promise<Books> | undefined;
  private drafts: Promise<Drafts> | undefined;

  constructor(
    readonly viewer: Viewer,
    { em, db, revision, newest, generation }: Omit<Moment, 'close'>,
    /** Also of a workspace that is empty. */
    readonly model: WorkspaceModel,
    private readonly open: OpenBooks,
  ) {
    this.em = em;
    this.db = db;
    this.revision = revision;
    this.newest = newest;
    this.generation = generation;
  }

  /** @throws SRV_WORKSPACE_EMPTY when nothing was brought in yet */
  get filled(): WorkspaceModel {
    if (this.model.entities.length === 0) throw appError('SRV_WORKSPACE_EMPTY');
    return this.model;
  }

  /** The books of all entities at this moment. */
  books(): Promise<Books> {
    return (this.openedBooks ??= this.open.books());
  }

  /** Has ready what the cash basis of a scope moves, by the ids of its entities: its books are read without waiting for it. */
  prepareCash(entities: readonly ScopeEntity[]): Promise<(entity: number) => DerivedCash> {
    return this.open.prepareCash(entities.map(({ id }) => id));
  }

  /** The same books, in which some accounts are also told apart by what journal lines of entities carry. */
  async booksInDetail(detail: LineDetail, entities: readonly ScopeEntity[]): Promise<Books> {
    return this.open.inDetail(await this.books(), detail, entities);
  }

  /** Lines of an entity, by its id, whose text holds one that some rules name. */
  matching(rules: Completions): Promise<(entity: number) => readonly TextMatch[]> {
    return this.open.matching(rules);
  }

  /** What the viewer is working on. */
  ownDrafts(): Promise<Drafts> {
    return (this.drafts ??= draftsOf(this.em, this.viewer.id));
  }

  /** What figures are made from at this moment, as a text; equal as long as no figure can have moved. */
  get figuresKey(): string {
    return partsKey(this.generation, READ_BY_STATEMENTS);
  }

  /** The periods in which an entity has postings, without reading its books. */
  postedPeriods({ id, calendar: { calendar, idOf } }: Entity): FiscalPeriod[] {
    const posted = postedAmong(this.db, id, calendar.periods.map(idOf));
    return calendar.periods.filter((period) => posted.has(idOf(period)));
  }
}
