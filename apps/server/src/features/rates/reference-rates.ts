import type { ReferenceRatesView } from '@margin-lens/contract';
import { decimalText, fractionOf, quotientOfSum, type FiscalPeriod } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { referenceSource } from '../../base/group-words';
import { referenceRatesXml } from '../../stand-ins/reference-rates';
import { GuardedXml, XmlProblem } from '../../workbook/guarded-xml';
import { rowsOf } from '../../store/masters';
import type { Snapshot } from '../workspace/snapshot';
import { openPeriod } from '../workspace/open-scope';

/** The currency that published reference rates are for one unit of. */
const BASE = 'EUR';
const TIMEOUT_MS = 10_000; // 1,000 to 60,000
const LARGEST = 20_000_000; // bytes; decades of days have some 7 million
const CURRENCY = /^[A-Z]{3}$/;
const DAY = /^\d{4}-\d{2}-\d{2}$/;
const RATE = /^\d{1,9}(\.\d{1,12})?$/;

/** A rate of a day: units of the currency for one of the base. */
export interface DayRate {
  day: string;
  currency: string;
  /** Decimal text. */
  rate: string;
}

/**
 * Reads reference rates of days.
 * @throws SRV_REFERENCE_RATES when it is not such a file
 * @source the public XML form of the euro foreign exchange reference rates: Cube[time] / Cube[currency, rate]
 */
export function readReferenceRates(xml: string): DayRate[] {
  const rates: DayRate[] = [];
  let day = '';
  const reader = new GuardedXml({
    open: (name, { time, currency, rate }) => {
      if (name !== 'Cube') return;
      if (time !== undefined) day = time;
      if (currency === undefined || rate === undefined) return;
      if (!DAY.test(day) || !CURRENCY.test(currency) || !RATE.test(rate) || Number(rate) === 0)
        throw appError('SRV_REFERENCE_RATES', { problem: `${day} ${currency} ${rate}` });
      rates.push({ day, currency, rate });
    },
  });
  try {
    reader.write(xml);
    reader.close();
  } catch (error) {
    if (error instanceof XmlProblem) throw appError('SRV_REFERENCE_RATES', { problem: error.message });
    throw error;
  }
  if (rates.length === 0) throw appError('SRV_REFERENCE_RATES', { problem: '<Cube>' });
  return rates;
}

/** Asks the service that was named, else the one that comes with the application. @throws SRV_REFERENCE_RATES */
async function published(from: string, to: string): Promise<{ xml: string; source: string }> {
  const url = process.env['MARGIN_LENS_REFERENCE_RATES'];
  if (!url) return { xml: referenceRatesXml(from, to), source: referenceSource.standIn };
  const refused = (problem: string) => appError('SRV_REFERENCE_RATES', { problem });
  const reply = await fetch(url, { signal: AbortSignal.timeout(TIMEOUT_MS) }).catch((error: Error) => {
    throw refused(`${url}: ${error.message}`);
  });
  if (!reply.ok) throw refused(`${reply.status} ${url}`);
  const xml = await reply.text();
  if (xml.length > LARGEST) throw refused(url);
  return { xml, source: url };
}

/**
 * Reference rates of months, made from those of days: the closing is that of the last published day of the month, the
 * average the mean of its days, to as many decimals as the days have.
 * @source common practice: the mean of the published days
 * @throws SRV_SCOPE_UNKNOWN, SRV_PERIOD_UNKNOWN, SRV_REFERENCE_RATES
 */
export async function referenceRatesView(
  snapshot: Snapshot,
  { from, to, scope }: { from: string; to: string; scope: string },
): Promise<ReferenceRatesView> {
  const model = snapshot.filled;
  const { calendar } = model.scope(scope) ?? {};
  if (!calendar) throw appError('SRV_SCOPE_UNKNOWN', { scope });
  const [first, last] = [from, to].map((key) => openPeriod({ calendar }, key)) as [FiscalPeriod, FiscalPeriod];
  const { xml, source } = await published(first.start, last.end);
  const wanted = new Set([...model.entities, ...model.groups].map(({ currency }) => currency.code));
  const days = readReferenceRates(xml).filter(
    ({ day, currency }) => wanted.has(currency) && first.start <= day && day <= last.end,
  );
  const now = new Map(
    (await rowsOf(snapshot.em, 'rates'))
      .filter((row) => row['set'] === '' && row['base'] === BASE)
      .map((row) => [[row['quote'], row['type'], row['period']].join('|'), String(row['rate'])]),
  );
  const months = calendar.calendar.periods
    .slice(first.ordinal, last.ordinal + 1)
    .filter(({ kind }) => kind === 'regular')
    .flatMap((period) => monthRates(period, days))
    .map((each) => ({ ...each, now: now.get([each.quote, each.type, each.period].join('|')) ?? null }));
  const all = days.map(({ day }) => day).sort();
  return { source, base: BASE, firstDay: all[0] ?? '', lastDay: all.at(-1) ?? '', months };
}

type MonthRate = Omit<ReferenceRatesView['months'][number], 'now'>;

function monthRates({ key, start, end }: FiscalPeriod, days: readonly DayRate[]): MonthRate[] {
  const held = new Map<string, DayRate[]>();
  for (const each of days)
    if (start <= each.day && each.day <= end) held.set(each.currency, [...(held.get(each.currency) ?? []), each]);
  return [...held].flatMap(([quote, rates]): MonthRate[] => {
    const inOrder = [...rates].sort((a, b) => (a.day < b.day ? -1 : 1));
    const last = inOrder.at(-1)!;
    const decimals = Math.max(...inOrder.map(({ rate }) => (rate.split('.')[1] ?? '').length));
    const mean = quotientOfSum(
      inOrder.map(({ rate }) => fractionOf(rate)),
      inOrder.length,
    );
    const of = { period: key, quote, days: inOrder.length, day: last.day };
    return [
      { ...of, type: 'closing', rate: last.rate },
      { ...of, type: 'average', rate: decimalText(mean, decimals) },
    ];
  });
}
