import type { EntityManager } from '@mikro-orm/better-sqlite';
import * as v from 'valibot';
import {
  digitsOf,
  scopeOfEntity,
  scopeOfGroup,
  DocumentSchema,
  type Account,
  type AllocationDocument,
  type CompletionDocument,
  type PackDocument,
  type AcquiredItem,
  type AssetTransfer,
  type AssociateResult,
  type Disposal,
  type CashFlowRule,
  type Partner,
  type ColumnLayout,
  type DimensionTree,
  DatedTrees,
  type DatedValue,
  type Document,
  type ConsolidationFacts,
  type EliminationLine,
  type FiscalPeriod,
  type Group,
  type HistoricalAmount,
  type Impairment,
  type StandingRule,
  type StockHeld,
  StatedAmounts,
  type AssetLayer,
  type Holding,
  type RowLayout,
  type Scope,
  type ScopeEntity,
  type StoredPeriods,
  type StatementDocument,
  type ValueAttribute,
  type WorkspaceSettings,
  shareOf,
  type BreakdownDocument,
  type FiguresPage,
  isFiguresPage,
} from '@margin-lens/core';
import type { OpeningSource, VersionEditor, VersionState } from '@margin-lens/contract';
import { currentDocuments, type DocumentRow } from '../../store/documents';
import { rowsOf, type PackageRow } from '../../store/masters';
import { VERSION_SETTINGS } from '../../store/versions';
import {
  accountOfRow,
  acquiredOfRow,
  disposalOfRow,
  calendarsOfRows,
  cashFlowOfRow,
  partnerOfRow,
  eliminationOfRow,
  historicalOfRow,
  assetTransferOfRow,
  associateResultOfRow,
  impairmentOfRow,
  standingRuleOfRow,
  stockOfRow,
  layerOfRow,
} from './package-rows';

export type Entity = ScopeEntity;

export interface Version {
  id: number;
  code: string;
  name: string;
  kind: string;
  fromPeriod: string;
  toPeriod: string;
  cutOver: string;
  rateSet: string;
  parent: string;
  state: VersionState;
  rank: number;
  settings: StoredVersionSettings;
}

/** What is kept about a version beside its row of the package. */
export interface StoredVersionSettings {
  owner: string;
  editors: VersionEditor[];
  /** What a plan opens with, where it is not the actual balances before its first month. */
  opening?: OpeningSource;
  /** Revision that a locked version reads everything at. */
  frozenAt?: number;
  /** Code of the locked version that this one revises. */
  revises?: string;
}

const NO_SETTINGS: StoredVersionSettings = { owner: '', editors: [] };

/** A stored document that cannot be read, and why. */
export interface SetAside {
  kind: string;
  id: string;
  problem: string;
}

/** What figures hang on: entities, accounts, calendars, dimensions, versions and settings. */
export interface Masters {
  settings: WorkspaceSettings | undefined;
  entities: readonly Entity[];
  /** Customers, suppliers and others that postings are against beside the entities. */
  partners: readonly Partner[];
  accounts: readonly Account[];
  /** Store ids of the accounts, by number. */
  accountIds: ReadonlyMap<string, number>;
  versions: readonly Version[];
  /** Where values of dimensions hang, from period to period. */
  datedTrees: DatedTrees;
  /** What values of dimensions carry. */
  attributes: readonly ValueAttribute[];
  cashFlow: readonly CashFlowRule[];
  closed: readonly { entity: string; period: string }[];
  calendars: ReadonlyMap<string, StoredPeriods>;
}

/** Which groups there are, who holds whom, and what else their figures stand on. */
export interface Structure {
  groups: readonly (Pick<Group, 'code' | 'name' | 'topEntity' | 'parent' | 'tiers'> & {
    currency: string;
    calendar: string;
  })[];
  holdings: readonly Holding[];
  historical: readonly HistoricalAmount[];
  layers: readonly PackageRow[];
  acquired: readonly AcquiredItem[];
  disposals: readonly Disposal[];
  impairments: readonly Impairment[];
  associateResults: readonly AssociateResult[];
  stockHeld: readonly StockHeld[];
  assetTransfers: readonly AssetTransfer[];
  rules: readonly StandingRule[];
  eliminations: readonly EliminationLine[];
}

/** The layouts and statements that are kept. */
export interface Documents {
  documents: readonly Document[];
  /** Documents that their schema does not take: nothing reads them, and they are named where they are asked for. */
  setAside: readonly SetAside[];
}

/** Master data and documents of the workspace at one moment. */
export class WorkspaceModel implements Masters, Documents {
  readonly settings: Masters['settings'];
  readonly entities: Masters['entities'];
  readonly partners: Masters['partners'];
  readonly accounts: Masters['accounts'];
  readonly accountIds: Masters['accountIds'];
  readonly versions: Masters['versions'];
  readonly datedTrees: Masters['datedTrees'];
  /** The dimensions with their values as they are organised by the latest, in the order they were first delivered. */
  readonly trees: readonly DimensionTree[];
  readonly attributes: Masters['attributes'];
  readonly cashFlow: Masters['cashFlow'];
  readonly closed: Masters['closed'];
  readonly calendars: Masters['calendars'];
  readonly groups: readonly Group[];
  readonly holdings: Structure['holdings'];
  readonly stated: StatedAmounts;
  readonly layers: readonly AssetLayer[];
  readonly acquired: Structure['acquired'];
  readonly disposals: Structure['disposals'];
  readonly eliminations: Structure['eliminations'];
  private readonly consolidation: ConsolidationFacts;
  readonly partnerCodes: ReadonlyMap<string, readonly string[]>;
  /** How shared costs can be spread; a field of its own, since books are made from copies of these. */
  readonly allocations: readonly AllocationDocument[];
  private readonly scopes = new Map<string, Scope | undefined>();
  readonly documents: Documents['documents'];
  readonly setAside: Documents['setAside'];
  private readonly values: ReadonlyMap<string, ReadonlySet<string>>;
  private readonly partnerNames: ReadonlyMap<string, string>;
  private readonly accountById: ReadonlyMap<number, string>;

  constructor(masters: Masters, { documents, setAside }: Documents, structure: Structure) {
    this.settings = masters.settings;
    this.entities = masters.entities;
    this.partners = masters.partners;
    this.accounts = masters.accounts;
    this.accountIds = masters.accountIds;
    this.versions = masters.versions;
    this.datedTrees = masters.datedTrees;
    this.trees = masters.datedTrees.latest;
    this.attributes = masters.attributes;
    this.cashFlow = masters.cashFlow;
    this.closed = masters.closed;
    this.calendars = masters.calendars;
    this.groups = structure.groups.map((group) => ({
      ...group,
      currency: currencyOf(group.currency),
      calendar: masters.calendars.get(group.calendar)!,
    }));
    this.holdings = structure.holdings;
    const currencies = new Map(masters.entities.map(({ code, currency }) => [code, currency.code]));
    this.layers = structure.layers.flatMap((row) => layerOfRow(row, currencies.get(String(row['entity']))));
    const reporting = masters.settings?.reporting_currency ?? '';
    this.stated = new StatedAmounts(structure.historical, reporting, (code) => currencies.get(code));
    this.acquired = structure.acquired;
    this.disposals = structure.disposals;
    this.eliminations = structure.eliminations;
    this.partnerCodes = partnerCodesOf(masters);
    this.consolidation = { ...structure, byHand: structure.eliminations, partnerCodes: this.partnerCodes };
    this.documents = documents;
    this.allocations = this.documentsOf('allocation').filter(({ archived }) => archived !== true);
    this.setAside = setAside;
    this.partnerNames = new Map([...masters.entities, ...masters.partners].map(({ code, name }) => [code, name]));
    this.values = new Map([
      ...masters.datedTrees.latest.map(
        ({ name, values }) => [name, new Set(values.map(({ value }) => value))] as const,
      ),
      ['partner', new Set(this.partnerNames.keys())],
    ]);
    this.accountById = new Map([...masters.accountIds].map(([number, id]) => [id, number]));
  }

  /** Name of a customer, supplier or entity; its code where nothing is known of it. */
  partnerName(partner: string): string {
    return this.partnerNames.get(partner) ?? partner;
  }

  /** Names of the dimensions. */
  get dimensions(): string[] {
    return this.trees.map(({ name }) => name);
  }

  /** Values that postings can carry in a dimension, or as partner; undefined where there is no such dimension. */
  valuesOf(dimension: string): ReadonlySet<string> | undefined {
    return this.values.get(dimension);
  }

  /** The last period of an entity that is closed, if any is. */
  lastClosed({ code, calendar: { calendar } }: Entity): FiscalPeriod | undefined {
    const keys = new Set(this.closed.filter(({ entity }) => entity === code).map(({ period }) => period));
    return calendar.periods.findLast(({ key, kind }) => kind === 'regular' && keys.has(key));
  }

  isClosed(entity: string, period: string): boolean {
    return this.closed.some((each) => each.entity === entity && each.period === period);
  }

  entity(code: string): Entity | undefined {
    return this.entities.find((entity) => entity.code === code);
  }

  group(code: string): Group | undefined {
    return this.groups.find((group) => group.code === code);
  }

  /** An entity or group in its own currency and calendar, or in those that are asked for. */
  scope(code: string, currency?: string, calendar?: StoredPeriods): Scope | undefined {
    const key = [code, currency, calendar?.calendar.code].join('|');
    if (!this.scopes.has(key)) this.scopes.set(key, this.findScope(code, currency, calendar));
    return this.scopes.get(key);
  }

  private findScope(code: string, currency?: string, calendar?: StoredPeriods): Scope | undefined {
    const entity = this.entity(code);
    const wanted = currency === undefined ? undefined : currencyOf(currency);
    if (entity) return scopeOfEntity(entity, wanted, calendar);
    const group = this.group(code);
    return group && this.scopeOf(group, this.holdings, wanted, calendar);
  }

  /** A group as it is, or as it would be with other shares. */
  scopeOf(group: Group, holdings: readonly Holding[], currency?: Scope['currency'], calendar?: StoredPeriods): Scope {
    const { code, topEntity, tiers = 'effective' } = group;
    const facts = { ...this.consolidation, holdings };
    const consolidated = { group: code, topEntity, currency: group.currency.code, tiers, facts };
    return scopeOfGroup(group, this.entities, holdings, currency, calendar, consolidated);
  }

  version(code: string): Version | undefined {
    return this.versions.find((version) => version.code === code);
  }

  /** Trees of an arrangement of values. */
  treesOf = (arrangement: number | undefined): readonly DimensionTree[] => this.datedTrees.of(arrangement);

  /** Values that postings without one are read with. */
  get completions(): CompletionDocument[] {
    return completionsIn(this.documents);
  }

  /** Statements and breakdowns. */
  get pages(): FiguresPage[] {
    return this.documents.filter(isFiguresPage);
  }

  documentsOf(kind: 'statement'): StatementDocument[];
  documentsOf(kind: 'breakdown'): BreakdownDocument[];
  documentsOf(kind: 'row_layout'): RowLayout[];
  documentsOf(kind: 'column_layout'): ColumnLayout[];
  documentsOf(kind: 'allocation'): AllocationDocument[];
  documentsOf(kind: 'completion'): CompletionDocument[];
  documentsOf(kind: 'pack'): PackDocument[];
  documentsOf(kind: Document['kind']): Document[] {
    return this.documents.filter((document) => document.kind === kind);
  }

  accountNumber(id: number): string | undefined {
    return this.accountById.get(id);
  }
}

/** Reads the master data as they are at the moment of a transaction, or as they were at an earlier revision. */
export async function readMasters(em: EntityManager, at?: number): Promise<Masters> {
  const rows = (name: string) => rowsOf(em, name, at);
  const calendars = calendarsOfRows(await rows('calendars'));
  const accountRows = (await rows('accounts')).sort((a, b) => (String(a['number']) < String(b['number']) ? -1 : 1));
  const stored = await currentDocuments(em, ['workspace', VERSION_SETTINGS], at);
  const versionSettings = new Map(
    stored
      .filter(({ kind }) => kind === VERSION_SETTINGS)
      .map(({ id, body }) => [id, JSON.parse(body) as StoredVersionSettings]),
  );
  const settings = stored.find(({ kind }) => kind === 'workspace');
  const periodMap = await rows('calendar_map');
  return {
    settings: settings && (JSON.parse(settings.body) as WorkspaceSettings),
    entities: (await rows('entities')).map((row) => entityOfRow(row, calendars, periodMap)),
    partners: (await rows('partners')).map(partnerOfRow),
    accounts: accountRows.map(accountOfRow),
    accountIds: new Map(accountRows.map((row) => [String(row['number']), row.id])),
    versions: (await rows('versions')).map((row) => versionOfRow(row, versionSettings)),
    datedTrees: new DatedTrees((await rows('dimensions')).map(datedValueOfRow)),
    attributes: (await rows('attributes')).map(attributeOfRow),
    cashFlow: (await rows('cash_flow')).map(cashFlowOfRow),
    calendars,
    closed: (await rows('period_status'))
      .filter((row) => row['status'] === 'closed')
      .map((row) => ({ entity: String(row['entity']), period: String(row['period']) })),
  };
}

/** Reads the structure of the groups as it is at the moment of a transaction, or as it was at an earlier revision. */
export async function readStructure(em: EntityManager, at?: number): Promise<Structure> {
  const groups = await rowsOf(em, 'groups', at);
  const holdings = await rowsOf(em, 'ownership', at);
  return {
    groups: groups.map((row) => ({
      code: String(row['code']),
      name: String(row['name']),
      currency: String(row['currency']),
      calendar: String(row['calendar']),
      topEntity: String(row['top_entity']),
      parent: String(row['parent_group'] ?? ''),
      tiers: row['tiers'] === 'sequential' ? 'sequential' : 'effective',
    })),
    holdings: holdings.map((row) => ({
      investor: String(row['investor']),
      investee: String(row['investee']),
      from: String(row['from']),
      percent: String(row['percent']),
      method: String(row['method']),
    })),
    historical: (await rowsOf(em, 'historical', at)).map(historicalOfRow),
    layers: await rowsOf(em, 'asset_layers', at),
    acquired: (await rowsOf(em, 'acquisitions', at)).map(acquiredOfRow),
    disposals: (await rowsOf(em, 'disposals', at)).map(disposalOfRow),
    impairments: (await rowsOf(em, 'impairments', at)).map(impairmentOfRow),
    associateResults: (await rowsOf(em, 'associate_results', at)).map(associateResultOfRow),
    stockHeld: (await rowsOf(em, 'stock_held', at)).map(stockOfRow),
    assetTransfers: (await rowsOf(em, 'asset_transfers', at)).map(assetTransferOfRow),
    rules: (await rowsOf(em, 'standing_rules', at)).map(standingRuleOfRow),
    eliminations: (await rowsOf(em, 'eliminations', at)).map(eliminationOfRow),
  };
}

/** Partners that are entities of the workspace, by the entity: itself, and what else stands for it. */
const partnerCodesOf = ({ entities, partners }: Masters): ReadonlyMap<string, readonly string[]> =>
  new Map(
    entities.map(({ code }) => [
      code,
      [code, ...partners.filter(({ entity }) => entity === code).map((partner) => partner.code)],
    ]),
  );

const currencyOf = (code: string): Scope['currency'] => ({ kind: 'currency', code, digits: digitsOf(code) });

/** Layouts and statements as they were kept; what cannot be read is set aside and said. */
export function readDocuments(rows: readonly DocumentRow[]): Documents {
  const read = rows.map((row) => ({ ...row, ...documentOf(row.body) }));
  const setAside = read.flatMap(({ kind, id, problem }) => (problem === undefined ? [] : [{ kind, id, problem }]));
  for (const { kind, id, problem } of setAside)
    console.error(`The ${kind} ${id} cannot be read and is set aside: ${problem}`);
  return { documents: read.flatMap(({ document }) => document ?? []), setAside };
}

/** The completions among documents that count, in the order of their ids. */
export function completionsIn(documents: readonly Document[]): CompletionDocument[] {
  const counting = documents.filter((each) => each.kind === 'completion' && each.archived !== true);
  return (counting as CompletionDocument[]).sort((a, b) => (a.id < b.id ? -1 : 1));
}

/** A document as it was kept, older forms read as today's; or what keeps it from being read. */
export function documentOf(
  body: string,
): { document: Document; problem?: never } | { document?: never; problem: string } {
  const parsed = v.safeParse(v.pipe(v.string(), v.parseJson(), DocumentSchema), body);
  if (parsed.success) return { document: parsed.output };
  const [first] = parsed.issues;
  return { problem: `${v.getDotPath(first) ?? 'the document'}: ${first.message}` };
}

const attributeOfRow = (row: PackageRow): ValueAttribute => ({
  ...{ dimension: String(row['dimension']), value: String(row['value']), attribute: String(row['attribute']) },
  ...{ text: String(row['text']), from: String(row['from'] ?? '') },
});

export const datedValueOfRow = (row: PackageRow): DatedValue => ({
  ...{ dimension: String(row['dimension']), value: String(row['value']), name: String(row['name']) },
  ...{ parent: String(row['parent'] ?? ''), from: String(row['from'] ?? '') },
});

function entityOfRow(
  row: PackageRow,
  calendars: ReadonlyMap<string, StoredPeriods>,
  periodMap: readonly PackageRow[],
): Entity {
  const periodsAs = periodMap
    .filter((each) => each['entity'] === row['code'])
    .map((each) => ({ from: String(each['from']), to: String(each['to']) }));
  return {
    id: row.id,
    code: String(row['code']),
    name: String(row['name']),
    currency: currencyOf(String(row['currency'])),
    calendar: calendars.get(String(row['calendar']))!,
    translation: row['translation'] === 'temporal' ? 'temporal' : 'closing',
    taxRate: row['tax_rate'] === '' ? undefined : shareOf(String(row['tax_rate'])),
    ...(periodsAs.length > 0 && { periodsAs }),
  };
}

const versionOfRow = (row: PackageRow, settings: ReadonlyMap<string, StoredVersionSettings>): Version => ({
  id: row.id,
  code: String(row['code']),
  name: String(row['name']),
  kind: String(row['kind']),
  fromPeriod: String(row['from_period']),
  toPeriod: String(row['to_period']),
  cutOver: String(row['cut_over'] ?? ''),
  rateSet: String(row['rate_set'] ?? ''),
  parent: String(row['parent'] ?? ''),
  state: (String(row['state'] ?? '') || 'draft') as VersionState,
  rank: Number(row['rank'] ?? 0),
  settings: settings.get(String(row['code'])) ?? NO_SETTINGS,
});
