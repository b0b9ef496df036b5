import type Database from 'better-sqlite3';
import type { Nature } from '@margin-lens/core';

/** A journal line with the names of what it stands on. */
export interface PackageLine {
  parts: string;
  entity: string;
  currencyOfBooks: string;
  journal: string;
  kind: number;
  line: number;
  date: string;
  year: number;
  number: number;
  periodKind: string;
  account: string;
  debit: number;
  credit: number;
  currency: string;
  currencyAmount: number | null;
  quantity: number;
  basis: number;
  description: string;
  document: string;
  documentType: string;
  due: string;
  settles: string;
  localAccount: string;
  localValues: string;
}

/** All journal lines that hold, journal by journal. */
export const packageLines = (db: Database.Database): IterableIterator<PackageLine> =>
  db
    .prepare(
      `select e.code as entity, e.currency as currencyOfBooks, j.number as journal, j.kind, l.line, l.date,
         p.fiscal_year as year, p.period as number, p.kind as periodKind, a.number as account, l.debit, l.credit,
         l.currency, l.currency_amount as currencyAmount, l.quantity, l.basis, l.description, l.document,
         l.document_type as documentType, l.due, l.settles,
         l.local_account as localAccount, l.local_values as localValues, c.parts
       from journal_line l
       join journal j on j.id = l.journal and j.until is null
       join entity e on e.id = l.entity and e.until is null
       join fiscal_period p on p.id = l.period and p.until is null
       join account a on a.id = l.account and a.until is null
       join combination c on c.id = l.combination
       order by l.journal, l.line`,
    )
    .iterate() as IterableIterator<PackageLine>;

/** A figure of a version with the names of what it stands on. */
export interface PackageFigure {
  parts: string;
  version: string;
  entity: string;
  currency: string;
  account: string;
  nature: Nature;
  year: number;
  number: number;
  amount: number;
  quantity: number;
}

/** All figures of versions that hold. */
export const packageFigures = (db: Database.Database): IterableIterator<PackageFigure> =>
  db
    .prepare(
      `select v.code as version, e.code as entity, e.currency, a.number as account, a.nature, p.fiscal_year as year,
         p.period as number, f.amount, f.quantity, c.parts
       from figure f
       join version v on v.id = f.version and v.until is null
       join entity e on e.id = f.entity and e.until is null
       join fiscal_period p on p.id = f.period and p.until is null
       join account a on a.id = f.account and a.until is null
       join combination c on c.id = f.combination
       where f.until is null order by f.id`,
    )
    .iterate() as IterableIterator<PackageFigure>;
