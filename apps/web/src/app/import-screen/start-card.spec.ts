import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { MatStepHarness } from '@angular/material/stepper/testing';
import type { CheckRequest, ImportJobView, LookAgain, SurveyView } from '@margin-lens/contract';
import { provideControls } from '../shared/controls';
import { Controls } from '../testing/controls';
import { StartCard } from './start-card';

const RULE = { kind: 'months', firstMonth: 1, namedAfter: 'end', adjustments: 0 } as const;
const JOB: ImportJobView = {
  id: '1',
  fileName: 'oakhill_pottery.csv',
  state: 'mapping',
  progress: { file: '', rows: 0, bytesRead: 0, bytesTotal: 0 },
  earlier: null,
  survey: null,
  unmatched: [],
  effect: null,
  isComplete: false,
  findings: null,
  counts: null,
  seconds: null,
  error: null,
  inspection: {
    isWorkbook: false,
    sheets: [],
    header: ['Account', 'Balance'],
    sample: [],
    isKept: false,
    questions: [],
    encodingText: null,
    noticed: [],
    codes: {},
    startsWith: RULE,
    mapping: {
      schema: 1,
      kind: 'mapping',
      id: 'oakhill',
      name: 'oakhill',
      purpose: 'trial_balance',
      header: ['Account', 'Balance'],
      headerLine: 1,
      encoding: 'utf-8',
      delimiter: ';',
      decimal: ',',
      dateOrder: 'ymd',
      shareForm: 'percent',
      measure: 'closing',
      start: 'opened',
      sign: 'natural',
      columns: { account: 'Account', amount: 'Balance' },
      constants: { entity: 'MAIN', period: 'FY2026-P08' },
      values: {},
    },
  },
};
/** By hand: 100 in the bank, 60 of capital, 90 of sales, 50 of rent. */
const SURVEY: SurveyView = {
  entities: ['MAIN'],
  years: { from: 2026, to: 2026 },
  undated: 0,
  values: [{ dimension: 'cost_centre', value: 'K1' }],
  accounts: [
    { number: '1000', name: 'Cash at bank', stand: 100 },
    { number: '2900', name: 'Share capital', stand: -60 },
    { number: '4000', name: 'Sales', stand: -90 },
    { number: '6000', name: 'Office rent', stand: 50 },
  ],
};

const goTo = async (fixture: ComponentFixture<StartCard>, label: string) =>
  (await TestbedHarnessEnvironment.loader(fixture).getHarness(MatStepHarness.with({ label }))).select();
/** Label of the step that is shown. */
const step = async (fixture: ComponentFixture<StartCard>) =>
  (await TestbedHarnessEnvironment.loader(fixture).getHarness(MatStepHarness.with({ selected: true }))).getLabel();

describe('StartCard', () => {
  async function open(job: ImportJobView) {
    TestBed.configureTestingModule({ providers: [provideControls()] });
    const fixture = TestBed.createComponent(StartCard);
    const sent: { check?: Omit<CheckRequest, 'isComplete'>; look?: LookAgain; surveyed: number } = { surveyed: 0 };
    fixture.componentInstance.check.subscribe((check) => (sent.check = check));
    fixture.componentInstance.lookAgain.subscribe((look) => (sent.look = look));
    fixture.componentInstance.survey.subscribe(() => sent.surveyed++);
    const give = async (next: ImportJobView) => {
      fixture.componentRef.setInput('job', next);
      fixture.detectChanges();
      await fixture.whenStable();
    };
    await give(job);
    const page = fixture.nativeElement as HTMLElement;
    const press = async (name: string) => {
      [...page.querySelectorAll('button')].find((button) => button.textContent.trim() === name)!.click();
      fixture.detectChanges();
      await fixture.whenStable();
    };
    const field = (id: string) => page.querySelector<HTMLInputElement>(`[data-testid="${id}"]`)!;
    return { fixture, page, sent, give, press, field, controls: new Controls(fixture) };
  }

  it('asks for the fiscal year first: another one is a new look at the months of the file', async () => {
    const { field, controls, sent } = await open(JOB);
    expect(field('start-name').value).toBe('oakhill pottery');
    await controls.choose('start-month', 'April');
    expect(sent.look).toMatchObject({ purpose: 'trial_balance', calendar: { kind: 'months', firstMonth: 4 } });
  });

  it('goes on to the accounts, whose classification adds up', async () => {
    const { page, press, sent, give } = await open(JOB);
    await press('Go on to the accounts');
    expect(sent.surveyed).toBe(1);
    await give({ ...JOB, survey: SURVEY });
    const sums = page.querySelector('[data-testid="start-sums"]')!.textContent!.replace(/\s+/g, ' ');
    for (const words of ['4 accounts', 'Assets 100.00', 'Equity 60.00', 'Profit 40.00']) expect(sums).toContain(words);
  });

  it('sends the books it starts with a year on either side, and waits for a currency that is one', async () => {
    const { page, press, sent, give, field } = await open(JOB);
    await press('Go on to the accounts');
    await give({ ...JOB, survey: SURVEY });
    const currency = page.querySelector<HTMLInputElement>('.currency input')!;
    currency.value = 'EURO';
    currency.dispatchEvent(new Event('input'));
    await give({ ...JOB, survey: SURVEY });
    expect(field('start-check').hasAttribute('disabled')).toBe(true);
    currency.value = 'gbp';
    currency.dispatchEvent(new Event('input'));
    await give({ ...JOB, survey: SURVEY });
    await press('Check what it would change');
    expect(sent.check!.additions!.values).toEqual([{ dimension: 'cost_centre', value: 'K1', name: 'K1' }]);
    expect(sent.check!.start).toMatchObject({
      name: 'oakhill pottery',
      entities: [{ code: 'MAIN', name: 'oakhill pottery', currency: 'GBP' }],
      calendar: RULE,
      years: { from: 2025, to: 2027 },
    });
    expect(sent.check!.start!.accounts.map(({ nature }) => nature)).toEqual(['asset', 'equity', 'income', 'expense']);
  });

  it('keeps what was said while the job moves on, and goes back to the columns and forth', async () => {
    const { fixture, press, give, field } = await open(JOB);
    await press('Go on to the accounts');
    await give({ ...JOB, survey: SURVEY });
    field('start-name').value = 'Oakhill';
    field('start-name').dispatchEvent(new Event('input'));
    await give({ ...JOB, state: 'reading', survey: { ...SURVEY } });
    expect(field('start-name').value).toBe('Oakhill');
    await press('Back to the columns');
    expect(await step(fixture)).toBe('Fiscal year and columns');
    await press('Go on to the accounts');
    expect(await step(fixture)).toBe('Entities and accounts');
  });

  it('goes back from what it would change to a step that was done, and no step ahead', async () => {
    const { fixture, press, give } = await open(JOB);
    let backs = 0;
    fixture.componentInstance.back.subscribe(() => backs++);
    await goTo(fixture, 'Entities and accounts');
    expect(await step(fixture)).toBe('Fiscal year and columns');
    await press('Go on to the accounts');
    await give({ ...JOB, survey: SURVEY });
    fixture.componentRef.setInput('isShown', true);
    await fixture.whenStable();
    expect(await step(fixture)).toBe('What it would change');
    await goTo(fixture, 'Entities and accounts');
    expect(backs).toBe(1);
  });
});
