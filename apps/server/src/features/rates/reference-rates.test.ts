import http from 'node:http';
import type { AddressInfo } from 'node:net';
import type { FastifyInstance } from 'fastify';
import type { ErrorReply, ReferenceRatesView } from '@margin-lens/contract';
import { asking } from '../../../test/asking';
import { tinyFiles, workspaceOf } from '../../../test/tiny-package';
import { buildApp } from '../../app';
import { referenceRatesXml } from '../../stand-ins/reference-rates';
import { readReferenceRates } from './reference-rates';

let app: FastifyInstance;
beforeAll(async () => {
  const rates = 'base,quote,period,type,rate\nEUR,JPY,FY2026-P01,closing,160.00\n';
  app = await buildApp({ databaseFile: await workspaceOf(tinyFiles({ 'rates.csv': rates })), webRoot: '/nonexistent' });
});
afterAll(() => app.close());
afterEach(() => delete process.env['MARGIN_LENS_REFERENCE_RATES']);
const ask = asking(() => app);
const reference = <T = ReferenceRatesView>() =>
  ask<T>('GET', '/rates/reference?scope=ALL&from=FY2026-P01&to=FY2026-P02');

/** Days as a central bank publishes them: newest first, in the form of the euro foreign exchange reference rates. */
const published = (...days: string[]) =>
  `<?xml version="1.0" encoding="UTF-8"?><gesmes:Envelope xmlns:gesmes="http://www.gesmes.org/xml/2002-08-01" xmlns="http://www.ecb.int/vocabulary/2002-08-01/eurofxref"><Cube>${days.join('')}</Cube></gesmes:Envelope>`;
const day = (time: string, rate: string) => `<Cube time='${time}'><Cube currency='JPY' rate='${rate}'/></Cube>`;

/** A service that publishes a text, for as long as it is needed. */
async function servedBy<T>(body: string, work: () => Promise<T>): Promise<T> {
  const server = http.createServer((_, reply) => reply.end(body)).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  process.env['MARGIN_LENS_REFERENCE_RATES'] = `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
  try {
    return await work();
  } finally {
    server.close();
  }
}

describe('reference rates', () => {
  it('become the closing of the last published day and the mean of the days of a month', async () => {
    // 31 January 2026 is a Saturday: the last published day is the 30th
    const xml = published(day('2026-02-02', '163.00'), day('2026-01-30', '162.41'), day('2026-01-29', '161.20'));
    const { body } = await servedBy(xml, () => reference());
    expect(body).toMatchObject({ base: 'EUR', firstDay: '2026-01-29', lastDay: '2026-02-02' });
    expect(body.months).toEqual([
      {
        period: 'FY2026-P01',
        quote: 'JPY',
        type: 'closing',
        rate: '162.41',
        days: 2,
        day: '2026-01-30',
        now: '160.00',
      },
      // (162.41 + 161.20) ÷ 2 = 161.805, away from zero
      { period: 'FY2026-P01', quote: 'JPY', type: 'average', rate: '161.81', days: 2, day: '2026-01-30', now: null },
      { period: 'FY2026-P02', quote: 'JPY', type: 'closing', rate: '163.00', days: 1, day: '2026-02-02', now: null },
      { period: 'FY2026-P02', quote: 'JPY', type: 'average', rate: '163', days: 1, day: '2026-02-02', now: null },
    ]);
  });

  it('come from a service that ships with the application where none is named, always the same', async () => {
    const { body } = await reference();
    expect(body.source).toContain('Made-up');
    expect(body.months.map(({ quote, type }) => [quote, type])).toEqual([
      ['JPY', 'closing'],
      ['JPY', 'average'],
      ['JPY', 'closing'],
      ['JPY', 'average'],
    ]);
    const days = readReferenceRates(referenceRatesXml('2026-01-01', '2026-01-31'));
    expect(new Set(days.map((each) => each.day)).size).toBe(22); // working days of January 2026
    expect(readReferenceRates(referenceRatesXml('2026-01-01', '2026-03-31'))).toEqual(expect.arrayContaining(days));
  });

  it.each([
    ['no rates', published()],
    ['a rate of zero', published(day('2026-01-30', '0'))],
    ['a rate that is no number', published(day('2026-01-30', 'N/A'))],
    ['no XML', '<html><body>Sorry'],
    ['entities', '<!DOCTYPE x [<!ENTITY a "b">]><Cube/>'],
  ])('that hold %s are refused with a remedy', async (_, xml) => {
    const { status, body } = await servedBy(xml, () => reference<ErrorReply>());
    expect([status, body.code]).toEqual([503, 'SRV_REFERENCE_RATES']);
    expect(body.hint).toContain('type or paste');
  });

  it('say so where the service does not answer', async () => {
    process.env['MARGIN_LENS_REFERENCE_RATES'] = 'http://127.0.0.1:9/';
    expect((await reference<ErrorReply>()).body.code).toBe('SRV_REFERENCE_RATES');
  });
});
