import { TestBed } from '@angular/core/testing';
import type { ImportJobView, InspectionView } from '@margin-lens/contract';
import { withTarget, type Additions, type Mapping } from '@margin-lens/core';
import { Controls } from '../testing/controls';
import { EffectCard } from './effect-card';
import { MappingCard } from './mapping-card';

const INSPECTION: InspectionView = {
  isWorkbook: false,
  sheets: [],
  isKept: false,
  encodingText: null,
  noticed: [],
  startsWith: null,
  header: ['Day', 'Konto', 'Betrag'],
  sample: [{ line: 2, cells: ['03/04/2026', '6400', '1.234'] }],
  mapping: {
    schema: 1,
    kind: 'mapping',
    id: 'april',
    name: 'april',
    purpose: 'journals',
    header: ['Day', 'Konto', 'Betrag'],
    headerLine: 1,
    encoding: 'utf-8',
    delimiter: ';',
    decimal: '.',
    dateOrder: 'dmy',
    shareForm: 'percent',
    measure: 'closing',
    start: 'opened',
    sign: 'natural',
    columns: { date: 'Day', account: 'Konto', amount: 'Betrag' },
    constants: {},
    values: {},
  },
  questions: [
    { about: 'decimal', texts: ['1.234'] },
    { about: 'dates', texts: ['03/04/2026'] },
  ],
  codes: { entity: [{ code: 'LMS', name: 'Larkmoor Studio' }], account: [{ code: '6410', name: 'Electricity' }] },
};

const EXPENSE = { nature: 'expense' as const, heading: 'Costs', subHeading: 'Energy', role: '' };
const JOB: ImportJobView = {
  id: '1',
  fileName: 'april.csv',
  state: 'mapping',
  progress: { file: '', rows: 0, bytesRead: 0, bytesTotal: 0 },
  earlier: null,
  inspection: INSPECTION,
  survey: null,
  unmatched: [{ target: 'account', text: '6410x', count: 2, name: 'Heating oil', classification: EXPENSE }],
  effect: null,
  isComplete: false,
  findings: null,
  counts: null,
  seconds: null,
  error: null,
};

async function open(job: ImportJobView) {
  const fixture = TestBed.createComponent(MappingCard);
  fixture.componentRef.setInput('job', job);
  const checked: Mapping[] = [];
  const additions: Additions[] = [];
  fixture.componentInstance.check.subscribe((check) => {
    checked.push(check.mapping);
    additions.push(check.additions);
  });
  await fixture.whenStable();
  const page = fixture.nativeElement as HTMLElement;
  const press = async (element: HTMLElement) => {
    element.click();
    await fixture.whenStable();
  };
  const controls = new Controls(fixture);
  const type = async (element: HTMLInputElement, value: string) => {
    element.value = value;
    element.dispatchEvent(new Event('change'));
    await fixture.whenStable();
  };
  const show = async (next: ImportJobView) => {
    fixture.componentRef.setInput('job', next);
    await fixture.whenStable();
  };
  return {
    page,
    press,
    show,
    type,
    controls,
    checked,
    additions,
    button: () => page.querySelector<HTMLButtonElement>('[data-testid="check"]')!,
  };
}

/** A point before decimals, and the day before the month. */
async function answerQuestions(controls: Controls): Promise<void> {
  await controls.answer(/The point/);
  await controls.answer(/The day/);
}

describe('MappingCard', () => {
  it('lets nothing be checked before its questions are answered and what is missing is given', async () => {
    const { page, press, controls, checked, button } = await open(JOB);
    expect(page.textContent).toContain('2 questions are open');
    await answerQuestions(controls);
    expect(button().disabled).toBe(true);
    expect(page.textContent).toContain('Say which column holds the entity');
    await controls.choose('One entity for the whole file', /Larkmoor Studio/);
    expect(page.textContent).toContain('Entity is LMS on every line');
    await press(button());
    expect(checked[0]).toMatchObject({ decimal: '.', dateOrder: 'dmy', constants: { entity: 'LMS' } });
  });

  it('keeps what was put right when the file is looked at another way', async () => {
    const { press, controls, checked, button, show } = await open(JOB);
    await answerQuestions(controls);
    await controls.choose('One entity for the whole file', /Larkmoor Studio/);
    await show({ ...JOB, inspection: { ...INSPECTION, mapping: { ...INSPECTION.mapping, encoding: 'windows-1252' } } });
    expect(button().disabled).toBe(false);
    await press(button());
    expect(checked[0]).toMatchObject({ encoding: 'windows-1252', decimal: '.', constants: { entity: 'LMS' } });
  });

  it('keeps the month that was said for the whole file when another calendar gives it another code', async () => {
    const ofCalendar = (code: string): InspectionView => ({
      ...INSPECTION,
      questions: [],
      mapping: {
        ...INSPECTION.mapping,
        purpose: 'trial_balance',
        columns: { account: 'Konto', amount: 'Betrag' },
        constants: { entity: 'LMS' },
      },
      codes: { ...INSPECTION.codes, period: [{ code, name: 'August 2026' }] },
    });
    const { controls, show, press, button, checked } = await open({ ...JOB, inspection: ofCalendar('FY2026-P08') });
    await controls.choose('One period for the whole file', /August 2026/);
    await show({ ...JOB, inspection: ofCalendar('FY2027-P05') });
    await press(button());
    expect(checked[0]!.constants).toMatchObject({ period: 'FY2027-P05' });
  });

  it('takes codes that the books do not have', async () => {
    const settled = { ...INSPECTION, questions: [], mapping: { ...INSPECTION.mapping, constants: { entity: 'LMS' } } };
    const { page, press, type, checked, button } = await open({ ...JOB, inspection: settled });
    expect(page.querySelector('[data-testid="unmatched"]')?.textContent).toMatch(/Account.*6410x.*2 times/s);
    await type(page.querySelector<HTMLInputElement>('[aria-label="Account 6410x is ours"]')!, '6410');
    await press(button());
    expect(checked[0]!.values).toEqual({ account: { '6410x': '6410' } });
  });

  it('brings new accounts in with the file, classified by their names, and keeps them once the check knows them', async () => {
    const settled = { ...INSPECTION, questions: [], mapping: { ...INSPECTION.mapping, constants: { entity: 'LMS' } } };
    const { page, press, type, controls, show, additions, button } = await open({ ...JOB, inspection: settled });
    await press(
      [...page.querySelectorAll('button')].find(({ textContent }) => /Take 1 account as new/.test(textContent))!,
    );
    await type(page.querySelector<HTMLInputElement>('[aria-label="Name of 6410x"]')!, 'Heating oil, kilns');
    await press(button());
    expect(additions[0]).toMatchObject({
      accounts: [{ number: '6410x', name: 'Heating oil, kilns', nature: 'expense' }],
      values: [],
    });
    // the check has found them, so that it misses nothing any more; what was said stays on screen and is sent again
    await show({ ...JOB, state: 'checked', inspection: settled, unmatched: [] });
    expect(page.querySelector('[data-testid="unmatched"]')?.textContent).toContain('6410x');
    await controls.choose('Nature of 6410x', /asset/);
    await press(button());
    expect(additions[1]!.accounts).toMatchObject([{ number: '6410x', nature: 'asset' }]);
  });

  it('makes a column a dimension that the books do not have, with its values', async () => {
    const settled = {
      ...INSPECTION,
      questions: [],
      header: ['Day', 'Konto', 'Betrag', 'Cost centre'],
      sample: [{ line: 2, cells: ['03/04/2026', '6410', '1.00', 'K1'] }],
      mapping: { ...INSPECTION.mapping, constants: { entity: 'LMS' } },
    };
    const { page, press, controls, show, checked, additions, button } = await open({
      ...JOB,
      inspection: settled,
      unmatched: [],
    });
    await controls.choose('Column Cost centre is read as', /A new dimension/);
    await press(button());
    expect(checked[0]!.columns).toMatchObject({ 'dim:cost_centre': 'Cost centre' });
    const value = { target: 'dim:cost_centre', text: 'K1', count: 4, name: '', classification: null };
    await show({ ...JOB, state: 'refused', inspection: settled, unmatched: [value] });
    await press(
      [...page.querySelectorAll('button')].find(({ textContent }) => /Take 1 of cost centre as new/.test(textContent))!,
    );
    await press(button());
    expect(additions[1]).toEqual({ accounts: [], values: [{ dimension: 'cost_centre', value: 'K1', name: 'K1' }] });
    // a column that is not read any more brings no values
    await controls.choose('Column Cost centre is read as', /not read/);
    await press(button());
    expect(additions[2]!.values).toEqual([]);
  });
});

describe('withTarget', () => {
  it('gives a column another target, and a target only one column', () => {
    const columns = { date: 'Day', amount: 'Betrag' };
    expect(withTarget(columns, 'Day', 'amount')).toEqual({ amount: 'Day' });
    expect(withTarget(columns, 'Day', '')).toEqual({ amount: 'Betrag' });
  });
});

describe('EffectCard', () => {
  it('shows months with their sums by currency, and says when nothing would change', async () => {
    const counts = {
      journals: 1,
      lines: 2,
      unchangedJournals: 0,
      changedJournals: 0,
      removedJournals: 0,
      figures: 0,
      changedFigures: 0,
      unchangedFigures: 0,
      documents: 0,
      masters: {},
    };
    const month = {
      entity: 'LMS',
      currency: 'EUR',
      period: 'FY2027-P05',
      label: 'Aug 2026',
      journalsAdded: 1,
      journalsChanged: 0,
      journalsRemoved: 0,
      debit: 31_820,
      credit: 31_820,
      profit: -31_820,
    };
    const fixture = TestBed.createComponent(EffectCard);
    const text = () => (fixture.nativeElement as HTMLElement).textContent!.replace(/\s+/g, ' ');
    fixture.componentRef.setInput('job', { ...JOB, counts, effect: { months: [month], accounts: [], figures: [] } });
    await fixture.whenStable();
    expect(text()).toContain('1 journal with 2 lines.');
    expect(text()).toContain('Aug 2026 FY2027-P051––318.20318.20 (318.20)');
    expect(text()).toContain('Total EUR ✓ debits and credits agree');
    const known = { ...counts, journals: 0, lines: 0, unchangedJournals: 6 };
    fixture.componentRef.setInput('job', { ...JOB, counts: known, effect: { months: [], accounts: [], figures: [] } });
    await fixture.whenStable();
    expect(text()).toContain('Everything in it is in the books already; nothing would change.');
  });
});
