import { addDays, weekdayOf } from '@margin-lens/core';

/** Where made-up rates begin: units of the currency for one euro. */
const START: Record<string, number> = {
  ...{ USD: 1.082, JPY: 163.4, GBP: 0.857, PLN: 4.31, SEK: 11.31, CHF: 0.952, CZK: 25.1, NOK: 11.62, DKK: 7.459 },
  ...{ HUF: 391.2, CAD: 1.472, AUD: 1.641, CNY: 7.79 },
};
const FIRST_DAY = '2024-01-01';
const WEIGHT = 0.0035; // range of a day's move, 0 to 0.02

/**
 * Made-up reference rates of working days, as XML in the form in which central banks publish theirs: a cube of days, in it
 * one rate a currency for one euro. It stands in for such a service where there is no network; the same days always have
 * the same rates.
 *
 * Shape: from the first day of the service on; both ends included.
 */
export function referenceRatesXml(from: string, to: string): string {
  const rates = new Map(Object.entries(START));
  const days: string[] = [];
  let seed = 17;
  const next = () => (seed = (seed * 48_271) % 2_147_483_647) / 2_147_483_647;
  for (let day = FIRST_DAY; day <= to; day = addDays(day, 1)) {
    if (weekdayOf(day) > 5) continue;
    for (const [currency, rate] of rates) rates.set(currency, rate * (1 + (next() - 0.5) * 2 * WEIGHT));
    if (day < from) continue;
    const cubes = [...rates].map(([currency, rate]) => `<Cube currency="${currency}" rate="${rate.toPrecision(5)}"/>`);
    days.push(`<Cube time="${day}">${cubes.join('')}</Cube>`);
  }
  return `<?xml version="1.0" encoding="UTF-8"?>
<gesmes:Envelope xmlns:gesmes="http://www.gesmes.org/xml/2002-08-01" xmlns="http://www.ecb.int/vocabulary/2002-08-01/eurofxref">
<gesmes:subject>Reference rates</gesmes:subject>
<gesmes:Sender><gesmes:name>Made-up rates that come with the application</gesmes:name></gesmes:Sender>
<Cube>
${days.reverse().join('\n')}
</Cube>
</gesmes:Envelope>
`;
}
