import type { EntityManager } from '@mikro-orm/better-sqlite';
import type { JournalView, PostingView } from '@margin-lens/contract';
import { BASES, COMBINATION_SEPARATOR, JOURNAL_KINDS } from '@margin-lens/core';
import type { Entity, WorkspaceModel } from '../workspace/workspace-model';
import type { Viewer } from '../../base/viewer';
import { requireEntity } from '../../base/viewer';
import { appError } from '../../base/app-error';
import { lateFrom } from './late-postings';

/** Journal lines on one page of the Lens. */
export const LINES_A_PAGE = 200;

export interface PostingQuery {
  entity: number;
  account: number;
  period: number;
  entryKind: 'normal' | 'opening';
  /** Turns debit positive into the sign of the figure that is explained. */
  sign: number;
  isStatistic: boolean;
  /** Bases that count, as stored. */
  bases: readonly number[];
  /** Ids of the combinations of dimension values that count; undefined for all. */
  combinations: ReadonlySet<number> | undefined;
  skip: number;
  /** Workspace revision that the books are read at; undefined for now. */
  at?: number | undefined;
}

const ofCombinations = (combinations: ReadonlySet<number> | undefined, column: string): [sql: string, ids: string[]] =>
  combinations ? [` and ${column} in (select value from json_each(?))`, [JSON.stringify([...combinations])]] : ['', []];

export interface PostingPage {
  lines: PostingView[];
  skipped: number;
  count: number;
  total: number;
}

/** The journal lines of one account of one entity in one period, a page at a time, with the sum of them all. */
export async function findPostings(em: EntityManager, query: PostingQuery): Promise<PostingPage> {
  const { entity, account, period, sign, isStatistic, skip } = query;
  const [only, ids] = ofCombinations(query.combinations, 'l.combination');
  const amount = isStatistic ? 'l.quantity' : '(l.debit - l.credit)';
  const held = query.at === undefined ? 'j.until is null' : 'j.since <= ? and (j.until is null or j.until > ?)';
  const revisions = query.at === undefined ? [] : [query.at, query.at];
  const source = `from journal_line l join journal j on j.id = l.journal
    where l.account = ? and l.entity = ? and l.period = ? and l.basis in (${query.bases.join(',')})
      and j.kind = ? and ${held}${only}`;
  const parameters = [account, entity, period, query.entryKind === 'opening' ? 1 : 0, ...revisions, ...ids];
  const connection = em.getConnection();
  const [sums] = await connection.execute<{ count: number; total: number | null }[]>(
    `select count(*) as count, sum(${amount}) as total ${source}`,
    parameters,
  );
  const lines = await connection.execute<PostingView[]>(
    `select l.id as lineId, j.id as journalId, j.number as journal, l.date, l.description, l.document, l.debit, l.credit,
      ${amount} as amount ${source} order by l.date, j.id, l.line limit ${LINES_A_PAGE} offset ?`,
    [...parameters, skip],
  );
  return {
    lines: lines.map((line) => ({ ...line, amount: sign * line.amount + 0 })),
    skipped: skip,
    count: sums!.count,
    total: sign * (sums!.total ?? 0) + 0,
  };
}

interface JournalRow {
  id: number;
  since: number;
  entity: number;
  number: string;
  kind: number;
  fiscalYear: number;
  fileName: string | null;
  action: string;
  person: string;
  at: string;
}

interface LineRow {
  id: number;
  period: number;
  line: number;
  date: string;
  account: number;
  debit: number;
  credit: number;
  currency: string;
  currencyAmount: number | null;
  quantity: number;
  basis: number;
  description: string;
  document: string;
  sourceLine: number;
  parts: string;
}

/** Partner, flow and dimension values of a stored combination, by name; empty ones are left out. */
export function attributesOf(parts: string): { name: string; value: string }[] {
  const [partner = '', flow = '', ...dimensions] = parts.split(COMBINATION_SEPARATOR);
  const named = dimensions.map((pair) => {
    const at = pair.indexOf('=');
    return { name: pair.slice(0, at), value: pair.slice(at + 1) };
  });
  return [{ name: 'partner', value: partner }, { name: 'flow', value: flow }, ...named].filter(
    ({ value }) => value !== '',
  );
}

/**
 * A whole journal with its lines and where it came from.
 * @throws SRV_JOURNAL_UNKNOWN when it is not in the books
 */
export async function findJournal(
  em: EntityManager,
  model: WorkspaceModel,
  viewer: Viewer,
  id: number,
): Promise<JournalView> {
  const connection = em.getConnection();
  const [journal] = await connection.execute<JournalRow[]>(
    `select j.id, j.since, j.entity, j.number, j.kind, j.fiscal_year as fiscalYear, i.file_name as fileName,
       r.action, r.person, r.at from journal j join workspace_revision r on r.id = j.since left join import_run i on i.revision = j.since
     where j.id = ? and j.until is null`,
    [id],
  );
  const entity = journal && model.entities.find((candidate) => candidate.id === journal.entity);
  if (!journal || !entity) throw appError('SRV_JOURNAL_UNKNOWN', { id });
  requireEntity(viewer, entity.code);
  const lines = await connection.execute<LineRow[]>(
    `select l.id, l.period, l.line, l.date, l.account, l.debit, l.credit, l.currency, l.currency_amount as currencyAmount, l.quantity,
      l.basis, l.description, l.document, l.source_line as sourceLine, c.parts
     from journal_line l join combination c on c.id = l.combination where l.journal = ? order by l.line`,
    [id],
  );
  const accountOf = new Map(model.accounts.map((account) => [model.accountIds.get(account.number)!, account]));
  return {
    id,
    entity: { code: entity.code, name: entity.name },
    number: journal.number,
    kind: JOURNAL_KINDS[journal.kind]!,
    fiscalYear: journal.fiscalYear,
    currency: { code: entity.currency.code, digits: entity.currency.digits },
    lateBecause: await lateReason(em, entity, journal.since, lines),
    broughtBy: {
      fileName: journal.fileName,
      reason: journal.fileName === null ? journal.action : null,
      person: journal.person,
      at: journal.at,
    },
    lines: lines.map(({ parts, basis, account, period: _, ...line }) => ({
      ...line,
      account: accountOf.get(account)!.number,
      accountName: accountOf.get(account)!.name,
      basis: BASES[basis]!,
      attributes: attributesOf(parts),
    })),
  };
}

/** Why a journal came late, if it did. */
async function lateReason(em: EntityManager, entity: Entity, since: number, lines: readonly LineRow[]) {
  const [back] = await em
    .getConnection()
    .execute<object[]>("select 1 from workspace_revision where id = ? and action like 'undo %'", [since]);
  const from = back ? [] : await lateFrom(em, entity);
  const late = from.find(({ period, revision }) => since > revision && lines.some((line) => line.period === period));
  return late?.because ?? null;
}
