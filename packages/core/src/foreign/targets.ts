import { DIMENSION_PREFIX, FIGURES_FILE, JOURNALS_FILE, RESOURCES } from '../intake/resources';
import type { ColumnSpec, ResourceSpec } from '../intake/resource-spec';
import { inWords, sentenceCase } from '../words/in-words';

/** What a foreign file can bring. */
export const PURPOSES = [
  'journals',
  'trial_balance',
  'figures',
  'accounts',
  'dimensions',
  'rates',
  'ownership',
  'versions',
] as const;
export type Purpose = (typeof PURPOSES)[number];

export type TargetType = 'code' | 'text' | 'number' | 'date' | 'period' | 'choice' | 'share';

/** A place that a column of a foreign file can fill. */
export interface Target {
  name: string;
  /** As the screen calls it. */
  label: string;
  type: TargetType;
  /** Master data that its values must be found in; other values can be mapped. */
  values?: 'accounts' | 'entities' | 'versions' | 'dimension';
  /** Names by which such a column is recognised, in lower-case letters and digits only. */
  synonyms: readonly string[];
}

/** `synonyms` one after another, divided by spaces. */
const target = (name: string, label: string, type: TargetType, synonyms = ''): Target => ({
  name,
  label,
  type,
  synonyms: [name.replaceAll('_', ''), ...synonyms.split(' ').filter(Boolean)],
});

const ACCOUNT: Target = {
  ...target(
    'account',
    'Account',
    'code',
    'accountno accountnumber accountcode accountid acct acctno glaccount ledgeraccount nominal nominalcode konto kontonummer kontonr sachkonto compte numerodecompte comptenum cuenta conto rekening',
  ),
  values: 'accounts',
};
const ENTITY: Target = {
  ...target(
    'entity',
    'Entity',
    'code',
    'entitycode company companycode subsidiary legalentity firma gesellschaft buchungskreis mandant societe sociedad',
  ),
  values: 'entities',
};
/** Used only where the chart of accounts is still to be made. */
const ACCOUNT_NAME = target(
  'account_name',
  'Account name',
  'text',
  'accountdescription accounttitle nominalname kontobezeichnung kontoname bezeichnung comptelib intitule name',
);
const DEBIT = target(
  'debit',
  'Debit',
  'number',
  'dr debitamount amountdebit debits soll sollbetrag debet debe dare montantdebit',
);
const CREDIT = target(
  'credit',
  'Credit',
  'number',
  'cr creditamount amountcredit credits haben habenbetrag kredit haber avere montantcredit',
);
const PERIOD = target('period', 'Period', 'period', 'fiscalperiod postingperiod month buchungsperiode periode');
const DESCRIPTION = target(
  'description',
  'Text',
  'text',
  'text memo narrative narration details particulars postingtext linedescription buchungstext libelle ecriturelib descripcion descrizione omschrijving',
);

const PARTNER: Target = {
  ...target(
    'partner',
    'Partner',
    'code',
    'intercompany ic tradingpartner counterparty partnergesellschaft customer customerno supplier supplierno vendor debitor kreditor client fournisseur',
  ),
  values: 'entities',
};
const FLOW = target('flow', 'Movement code', 'code', 'movementtype movementcode');
const QUANTITY = target('quantity', 'Quantity', 'number', 'qty units menge');

const JOURNAL_TARGETS: readonly Target[] = [
  ENTITY,
  target(
    'journal',
    'Journal number',
    'code',
    'journalno journalnumber journalid entryno entrynumber entryid transactionid transactionno voucher voucherno belegnummer belegnr beleg buchungsnummer numeroecriture ecriturenum asiento',
  ),
  target('line', 'Line number', 'code', 'lineno linenumber lineid recordid item position zeile buchungszeile'),
  target(
    'date',
    'Posting date',
    'date',
    'postingdate glpostingdate transactiondate entrydate journaldate accountingdate effectivedate valuedate datum buchungsdatum belegdatum fecha data dateecriture ecrituredate',
  ),
  PERIOD,
  ACCOUNT,
  ACCOUNT_NAME,
  target(
    'amount',
    'Amount (credits negative)',
    'number',
    'amountlc localamount netamount value betrag umsatz montant importe importo bedrag',
  ),
  DEBIT,
  CREDIT,
  target('side', 'Debit or credit', 'code', 'dc drcr debitcredit sign sollhaben sh sollhabenkennzeichen sens'),
  target('currency', 'Currency', 'code', 'currencycode curr ccy wahrung waehrung devise idevise moneda valuta'),
  target(
    'currency_amount',
    'Amount in that currency',
    'number',
    'foreignamount documentamount transactionamount amountfc originalamount montantdevise fremdwahrungsbetrag',
  ),
  QUANTITY,
  PARTNER,
  FLOW,
  DESCRIPTION,
  target(
    'document',
    'Document',
    'text',
    'documentno documentnumber docno reference ref invoice invoiceno externaldocument sourcedocumentid rechnungsnummer referenz piece pieceref',
  ),
  target('document_type', 'Document type', 'code', 'doctype typeofdocument belegart voucherkind typepiece'),
  target('due', 'Due date', 'date', 'duedate netduedate paymentdue faelligkeit faelligam echeance vencimiento'),
  target('settles', 'Settles document', 'text', 'clearingdocument clears appliesto appliedto ausgleichsbeleg lettrage'),
];

const TRIAL_BALANCE_TARGETS: readonly Target[] = [
  ENTITY,
  ACCOUNT,
  { ...ACCOUNT_NAME, synonyms: [...ACCOUNT_NAME.synonyms, 'description', 'title', 'details', 'libelle'] },
  PERIOD,
  target(
    'amount',
    'Balance (credits negative)',
    'number',
    'balance closing closingbalance netbalance movement netchange saldo solde betrag',
  ),
  DEBIT,
  CREDIT,
];

const VERSION: Target = {
  ...target('version', 'Version', 'code', 'scenario budget plan planversion versioncode'),
  values: 'versions',
};
const FIGURE_TARGETS: readonly Target[] = [
  VERSION,
  ENTITY,
  ACCOUNT,
  PERIOD,
  target('amount', 'Amount', 'number', 'value figure planamount budgetamount betrag montant importe'),
  QUANTITY,
  PARTNER,
  FLOW,
];

const TABLE_SYNONYMS: Record<string, readonly string[]> = {
  'accounts.number': [
    'account',
    'accountno',
    'accountnumber',
    'accountcode',
    'accountid',
    'code',
    'nominalcode',
    'konto',
    'kontonummer',
  ],
  'accounts.name': [
    'accountname',
    'accountdescription',
    'description',
    'title',
    'bezeichnung',
    'kontobezeichnung',
    'libelle',
  ],
  'accounts.nature': ['type', 'accounttype', 'class', 'kontoart', 'classification'],
  'accounts.category': ['heading', 'group', 'accountgroup', 'fsline'],
  'accounts.subcategory': ['subheading', 'subgroup'],
  'dimensions.value': ['code', 'id'],
  'dimensions.name': ['description', 'title', 'bezeichnung'],
  'dimensions.parent': ['parentcode', 'rollup', 'group'],
  'rates.base': ['fromcurrency', 'from', 'basecurrency', 'sourcecurrency', 'von'],
  'rates.quote': ['tocurrency', 'to', 'quotecurrency', 'targetcurrency', 'nach'],
  'rates.period': ['month'],
  'rates.type': ['ratetype', 'kind', 'kurstyp', 'kursart'],
  'rates.rate': ['exchangerate', 'value', 'kurs'],
  'ownership.investor': ['owner', 'parent', 'holder'],
  'ownership.investee': ['owned', 'subsidiary', 'held', 'company'],
  'ownership.from': ['validfrom', 'start', 'startdate', 'since', 'date'],
  'ownership.percent': ['share', 'ownership', 'percentage', 'pct', 'stake', 'anteil'],
  'ownership.method': ['consolidationmethod'],
};

const TABLE_LABELS: Record<string, string> = {
  'accounts.category': 'Heading',
  'accounts.subcategory': 'Sub-heading',
  'rates.base': 'From currency',
  'rates.quote': 'To currency',
  'ownership.investor': 'Owner',
  'ownership.investee': 'Owned',
};

/** The last day of a share, which a package writes as a share of nothing from the next day on. */
const SHARE_UNTIL = target('to', 'Until', 'date', 'until validto end enddate bis');

/** Purposes whose amounts can stand in columns of their own, one a month. */
export const hasMonthColumns = (purpose: Purpose): boolean => purpose === 'trial_balance' || purpose === 'figures';

/** The file of the ledger package that a purpose fills; journals and trial balances become journals. */
export const fileOf = (purpose: Purpose): string =>
  purpose === 'figures' ? FIGURES_FILE : (resourceOf(purpose)?.file ?? JOURNALS_FILE);

/** The table of master data that a purpose fills, if it is one. */
export const resourceOf = (purpose: Purpose): ResourceSpec | undefined =>
  RESOURCES.find((resource) => resource.name === purpose);

function tableTarget(resource: ResourceSpec, column: ColumnSpec): Target {
  const key = `${resource.name}.${column.name}`;
  const label = TABLE_LABELS[key] ?? sentenceCase(inWords(column.name));
  return target(column.name, label, typeOf(column), ...(TABLE_SYNONYMS[key] ?? []));
}

function typeOf(column: ColumnSpec): TargetType {
  if (column.choices) return 'choice';
  switch (column.type) {
    case 'integer':
    case 'decimal':
    case 'rate':
      return 'number';
    case 'percent':
      return 'share';
    case 'date':
    case 'period':
      return column.type;
    case 'currency':
    case 'code':
      return 'code';
    case 'text':
      return column.refers || column.required ? 'code' : 'text';
  }
}

/**
 * What columns of a file may be mapped to.
 *
 * Shape: the targets of the purpose in the order of the screen, then one a dimension for journals and figures.
 */
export function targetsOf(purpose: Purpose, dimensions: readonly string[]): Target[] {
  const ofDimensions = dimensions.map((dimension): Target => ({
    ...target(`${DIMENSION_PREFIX}${dimension}`, inWords(dimension), 'code', dimension.replaceAll('_', '')),
    values: 'dimension',
  }));
  if (purpose === 'journals') return [...JOURNAL_TARGETS, ...ofDimensions];
  if (purpose === 'trial_balance') return [...TRIAL_BALANCE_TARGETS];
  if (purpose === 'figures') return [...FIGURE_TARGETS, ...ofDimensions];
  const resource = resourceOf(purpose)!;
  const targets = resource.columns.map((column) => tableTarget(resource, column));
  return purpose === 'ownership' ? [...targets, SHARE_UNTIL] : targets;
}
