import type { Nature } from './nature';

/** What an account whose name holds certain words usually is. */
export interface WordRule {
  /** Matched against the name without accents, in lower case. */
  words: RegExp;
  nature: Nature;
  heading: string;
  subHeading: string;
  role?: string;
  /** Which side its balance usually stands on, where that is not the one of its nature. */
  side?: 'debit' | 'credit' | 'either';
}

const rule = (
  nature: Nature,
  heading: string,
  subHeading: string,
  words: RegExp,
  more: Pick<WordRule, 'role' | 'side'> = {},
): WordRule => ({ words, nature, heading, subHeading, ...more });

const NON_CURRENT = 'Non-current assets';
const CURRENT = 'Current assets';
const LONG = 'Non-current liabilities';
const SHORT = 'Current liabilities';
const COSTS = 'Operating expenses';

/**
 * Names of accounts in English, German and French, the more particular first. A name may fit several rules: which one
 * holds then follows from where its number lies.
 * @source common practice; headings follow IAS 1 (54, 82, 102), French words the general chart of accounts (ANC 2014-03)
 */
export const WORD_RULES: readonly WordRule[] = [
  // particular phrases, before the single words that they hold
  rule(
    'asset',
    NON_CURRENT,
    'Property, plant and equipment',
    /accumulated depreciation|depreciation,|amortissements? (des|du|de la) (constr|install|materiel|immob)|wertberichtigung(en)? (auf|zu) sachanlagen/,
    { side: 'credit' },
  ),
  rule('asset', NON_CURRENT, 'Intangible assets', /accumulated amorti[sz]ation|amorti[sz]ation,/, { side: 'credit' }),
  rule(
    'asset',
    NON_CURRENT,
    'Deferred tax assets',
    /deferred tax assets?|aktive latente steuern|impots? differes? actif/,
  ),
  rule('liability', LONG, 'Deferred tax liabilities', /deferred tax|passive latente steuern|impots? differes?/),
  rule('asset', CURRENT, 'Inventories', /(change|write-?down|provision)s? (in|of|on|for) (inventor|stock)/, {
    side: 'either',
  }),
  rule(
    'expense',
    'Cost of sales',
    'Materials',
    /change in (inventor|stock)|bestandsveranderung|variations? des? stocks?/,
    { side: 'either' },
  ),
  rule(
    'asset',
    CURRENT,
    'Trade receivables',
    /(allowance|provision)s? for (doubtful|bad|expected)|expected credit loss allowance|doubtful debts/,
    { side: 'credit' },
  ),
  rule(
    'expense',
    COSTS,
    'Other operating expenses',
    /bad debts?|impairment loss(es)? on receivables|forderungsverlust|creances irrecouvrables/,
  ),
  rule(
    'income',
    'Revenue',
    'Sales deductions',
    /(sales|customer) (discounts?|returns?|rebates?|allowances?)|credit notes?|erlosschmalerung|rabais, remises et ristournes accordes/,
    { side: 'debit' },
  ),
  rule(
    'expense',
    'Cost of sales',
    'Materials',
    /purchase (discounts?|returns?|rebates?)|discounts? received|erhaltene skonti|rabais, remises et ristournes obtenus/,
    { side: 'credit' },
  ),
  rule(
    'expense',
    'Cost of sales',
    'Materials',
    /cost of (sales|goods)|freight in|carriage in|inward freight|wareneinsatz|wareneingang|materialaufwand|achats? (de|d'|stockes)|matieres premieres consommees/,
  ),
  rule(
    'expense',
    COSTS,
    'Selling and distribution',
    /freight out|carriage out|outward freight|delivery (costs|expenses)|distribution|ausgangsfracht|transports? sur ventes/,
  ),
  rule(
    'expense',
    'Finance costs',
    'Interest and charges',
    /interest (expense|paid|on|cost)|bank (charges|fees|interest)|zinsaufwand|nebenkosten des geldverkehrs|charges? d'interets?|services bancaires|unwinding of discount/,
  ),
  rule(
    'income',
    'Finance income',
    'Interest income',
    /interest (income|received|earned)|zinsertrag|produits? financiers?|interets? recus|revenus des (autres )?creances/,
  ),
  rule('expense', 'Finance costs', 'Interest and charges', /^interest\b|\binterest$|^zinsen\b|^interets?\b/),
  rule('income', 'Finance income', 'Interest income', /^interest\b|\binterest$|^zinsen\b|^interets?\b/),
  rule(
    'income',
    'Finance income',
    'Dividend income',
    /dividend(s)? (income|received)|income from (shares|investments|participations)|beteiligungsertrag|produits? de participations?/,
  ),
  rule(
    'expense',
    'Finance costs',
    'Exchange differences',
    /(exchange|currency|fx) (loss|difference)|kursverlust|pertes? de change/,
    { side: 'either' },
  ),
  rule('income', 'Finance income', 'Exchange differences', /(exchange|currency|fx) gain|kursgewinn|gains? de change/),
  rule(
    'income',
    'Other operating income',
    'Gains and losses on disposal',
    /gains? (or|and|\/) loss(es)? on (disposal|sale)/,
    { side: 'either' },
  ),
  rule(
    'income',
    'Other operating income',
    'Gains on disposal',
    /(gain|profit)s? on (disposal|sale)|erlose aus anlageverkauf|produits? des cessions/,
  ),
  rule('expense', COSTS, 'Losses on disposal', /loss(es)? on (disposal|sale)|verluste? aus anlag/),
  rule(
    'liability',
    SHORT,
    'Tax payable',
    /(corporation|income|current) tax (payable|liabilit|provision)|tax(es)? payable|etat,? impots?|steuerruckstellung/,
    { side: 'either' },
  ),
  rule(
    'expense',
    'Income tax',
    'Current tax',
    /income tax|corporation tax|current tax|tax (expense|on profit)|korperschaftsteuer|gewerbesteuer|ertragsteuer|impots? sur les benefices/,
    { side: 'either' },
  ),
  rule(
    'asset',
    CURRENT,
    'Other receivables',
    /(input|deductible|recoverable|receivable).*(vat|sales tax)|(vat|sales tax).*(input|deductible|recoverable|receivable|paid)|vorsteuer|tva deductible/,
  ),
  rule(
    'liability',
    SHORT,
    'Other payables',
    /\bvat\b|value added tax|sales tax|umsatzsteuer|mehrwertsteuer|tva|gst|consumption tax/,
    { side: 'either' },
  ),
  rule(
    'liability',
    SHORT,
    'Other payables',
    /(payroll|wage|salary|social security|pension|paye|national insurance).*(payable|control|liabilit|accru|due)|(accrued|unpaid).*(wage|salar|holiday|bonus)|remunerations? dues|verbindlichkeiten.*(lohn|sozial)|securite sociale/,
  ),
  rule(
    'asset',
    CURRENT,
    'Prepayments',
    /prepaid|prepayment|prepayments|aktive rechnungsabgrenzung|charges? constatees? d'avance|deferred (charges|costs)/,
  ),
  rule(
    'liability',
    SHORT,
    'Deferred income',
    /deferred (income|revenue)|contract liabilit|unearned|customer (deposits|advances)|advances from customers|passive rechnungsabgrenzung|produits? constates? d'avance|erhaltene anzahlungen/,
  ),
  rule('liability', SHORT, 'Accruals', /accru(als|ed)|abgrenzung|charges a payer|goods received not invoiced/),

  // equity
  rule(
    'equity',
    'Equity',
    'Retained earnings',
    /retained (earnings|profit)|accumulated (profit|loss|deficit)|profit and loss (account|reserve)|gewinnvortrag|verlustvortrag|report a nouveau/,
    { role: 'retained_earnings', side: 'either' },
  ),
  rule('equity', 'Equity', 'Dividends', /dividends?( paid| declared)?$|distributions?$|drawings|privatentnahme/, {
    role: 'dividends',
    side: 'debit',
  }),
  rule(
    'equity',
    'Equity',
    'Translation reserve',
    /(translation|currency) (reserve|adjustment|difference)|wahrungsumrechnung|ecarts? de conversion/,
    { role: 'translation_reserve', side: 'either' },
  ),
  rule(
    'equity',
    'Equity',
    'Share capital',
    /(share|ordinary|common|capital) (capital|stock|shares)|^capital\b|subscribed capital|gezeichnetes kapital|stammkapital|capital social|share premium|additional paid/,
  ),
  rule('equity', 'Equity', 'Reserves', /reserves?\b|rucklage|owner'?s equity|non-controlling interests?/),

  // assets
  rule('asset', NON_CURRENT, 'Goodwill', /goodwill|firmenwert|fonds commercial/),
  rule(
    'asset',
    NON_CURRENT,
    'Intangible assets',
    /intangible|software( licen[cs]es?)?$|patents?|trade ?marks?|licen[cs]es? and|development costs|immaterielle|konzessionen|concessions?, brevets|brevets/,
  ),
  rule('asset', NON_CURRENT, 'Right-of-use assets', /right-?of-?use/),
  rule(
    'asset',
    NON_CURRENT,
    'Property, plant and equipment',
    /\bland\b|buildings?$|machinery|plant and|equipment$|furniture|fixtures|fittings|motor vehicles$|^vehicles$|tools$|under construction|grundstuck|gebaude|maschinen|fuhrpark|geschaftsausstattung|anlagen im bau|terrains?|constructions?|installations? techniques|materiel (de|industriel|et)|mobilier/,
  ),
  rule(
    'asset',
    NON_CURRENT,
    'Investments',
    /investments? in|shares in|subsidiar|associates?$|long-term (loan|receivable)|loans? to|beteiligungen|anteile an|titres de participation|prets/,
  ),
  rule(
    'asset',
    CURRENT,
    'Inventories',
    /inventor(y|ies)|stocks?\b|raw materials?|work in progress|finished goods|merchandise|vorrate|rohstoffe|fertige erzeugnisse|unfertige|warenbestand|stocks? de|matieres premieres/,
  ),
  rule(
    'asset',
    CURRENT,
    'Other receivables',
    /(other|sundry) (current )?(receivables|debtors)|sonstige (forderungen|vermogensgegenstande)|autres creances|debiteurs divers/,
  ),
  rule(
    'asset',
    CURRENT,
    'Trade receivables',
    /trade (debtors|receivables)|accounts receivable|receivables?|debtors|customers?$|forderungen|clients?\b/,
  ),
  rule(
    'asset',
    CURRENT,
    'Suspense',
    /suspense|clearing|to be (sorted|clarified)|unallocated|verrechnungskonto|comptes? d'attente/,
    { role: 'suspense', side: 'either' },
  ),

  // liabilities
  rule('liability', LONG, 'Lease liabilities', /lease (liabilit|obligation)/),
  rule(
    'liability',
    LONG,
    'Borrowings',
    /\bloans?\b|borrowings?|mortgage|bonds?( payable)?$|debentures?|darlehen|verbindlichkeiten gegenuber kreditinstituten|emprunts?/,
  ),
  rule('liability', LONG, 'Provisions', /provisions?\b|pension (liabilit|obligation)|ruckstellung/),
  rule('liability', SHORT, 'Borrowings', /overdraft|credit card|kontokorrent|concours bancaires/),
  rule(
    'asset',
    CURRENT,
    'Cash and cash equivalents',
    /cash\b|bank\b|banks\b|current account|petty|deposit account|savings|kasse|bankguthaben|guthaben bei|girokonto|banques?|caisse/,
    { role: 'cash' },
  ),
  rule(
    'liability',
    SHORT,
    'Other payables',
    /(other|sundry) (current )?(payables|creditors|liabilities)|sonstige verbindlichkeiten|autres dettes|crediteurs divers/,
  ),
  rule(
    'liability',
    SHORT,
    'Trade payables',
    /trade (creditors|payables)|accounts payable|payables?|creditors|suppliers?$|verbindlichkeiten|fournisseurs/,
  ),

  // income
  rule(
    'income',
    'Other operating income',
    'Other operating income',
    /other (operating )?income|rental income|rent received|grants? (income|received)|sundry income|royalt(y|ies) (income|received)|sonstige (betriebliche )?ertrage|subventions? d'exploitation|autres produits/,
  ),
  rule(
    'income',
    'Revenue',
    'Sales',
    /\bsales\b|revenues?|turnover|fees? (earned|income)|service income|income$|umsatzerlose|erlose|ventes?|prestations? de services|produits? des activites/,
  ),

  // costs
  rule(
    'expense',
    'Cost of sales',
    'Materials',
    /purchases?|materials?\b|consumables|subcontract|packaging|fremdleistungen|sous-traitance|achats?/,
  ),
  rule('expense', 'Cost of sales', 'Direct labour', /direct (labou?r|wages)|production wages|fertigungslohne/),
  rule(
    'expense',
    COSTS,
    'Personnel',
    /wages|salar(y|ies)|payroll|social security|national insurance|pension|staff|personnel|bonus|training|recruitment|directors'? (fees|remuneration)|lohne|gehalter|sozial|personalaufwand|remunerations?|charges de securite|cotisations/,
  ),
  rule(
    'expense',
    COSTS,
    'Rent and premises',
    /\brent\b|rents|premises|rates$|cleaning|security|property (costs|tax)|miete|raumkosten|locations?\b|loyers?/,
  ),
  rule(
    'expense',
    COSTS,
    'Energy',
    /electricity|\bgas\b|energy|water|heating|light|power|fuel oil|strom|heizung|energie|eau/,
  ),
  rule('expense', COSTS, 'Repairs and maintenance', /repairs?|maintenance|instandhaltung|reparatur|entretien/),
  rule('expense', COSTS, 'Marketing', /marketing|advertis|promotion|exhibition|trade fairs?|werbe|publicite/),
  rule(
    'expense',
    COSTS,
    'Vehicles and travel',
    /travel|vehicle|motor (running|expenses)|fuel|petrol|subsistence|entertain|hotel|reisekosten|kfz|fahrzeugkosten|bewirtung|deplacements?|missions/,
  ),
  rule(
    'expense',
    COSTS,
    'IT and communication',
    /telephone|internet|mobile|postage|software|\bit\b|computer|hosting|subscriptions?|telefon|porto|edv|telecommunications?|frais postaux/,
  ),
  rule(
    'expense',
    COSTS,
    'Professional fees',
    /legal|audit|accountan|consult|professional|advis|rechtsberatung|beratung|abschlusskosten|buchfuhrung|honoraires/,
  ),
  rule('expense', COSTS, 'Insurance', /insurance|versicherung|assurances?/),
  rule('expense', COSTS, 'Office', /office|stationery|printing|burobedarf|fournitures (de bureau|administratives)/),
  rule(
    'expense',
    COSTS,
    'Taxes and levies',
    /licen[cs]e fees|business rates|(road|property|land) tax|sonstige steuern|impots, taxes|taxe/,
  ),
  rule(
    'expense',
    'Depreciation and amortisation',
    'Depreciation and amortisation',
    /depreciation|amorti[sz]ation|impairment|abschreibung|dotations? aux amortissements/,
  ),
  rule(
    'expense',
    COSTS,
    'Other operating expenses',
    /expenses?|costs?|charges?|sundry|miscellaneous|donations?|aufwendungen|kosten|charges diverses/,
  ),

  // statistics
  rule(
    'statistic',
    'Statistics',
    'Headcount',
    /headcount|full-time equivalents?|\bfte\b|number of (employees|staff)|mitarbeiterzahl|effectif/,
  ),
  rule(
    'statistic',
    'Statistics',
    'Quantities',
    /(units|pieces|tonnes|hours|square met(er|re)s) (sold|produced|worked|made)?$/,
  ),
];
