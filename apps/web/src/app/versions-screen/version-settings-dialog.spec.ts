import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { TestBed } from '@angular/core/testing';
import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import { MatSelectHarness } from '@angular/material/select/testing';
import type { VersionSettings, VersionView } from '@margin-lens/contract';
import { SAMPLE_WORKSPACE } from '../testing/sample-view';
import { VersionSettingsDialog, type SettingsQuestion } from './version-settings-dialog';

const version = {
  code: 'PLAN',
  name: 'Plan',
  kind: 'forecast',
  state: 'draft',
  owner: 'local',
  opening: null,
  rateSet: '',
};
const PEOPLE = [
  { id: 'local', name: 'Controller' },
  { id: 'ines', name: 'Ines' },
];

describe('the settings of a version', () => {
  let kept: VersionSettings | undefined;

  function open(editors: VersionView['editors']) {
    const data: SettingsQuestion = {
      version: { ...version, editors } as unknown as VersionView,
      ...{ others: [], periods: [], people: PEOPLE, entities: SAMPLE_WORKSPACE.entities },
      dimensions: [
        { name: 'site', values: [{ value: 'kiln', name: 'Kiln', parent: '' }] },
        { name: 'team', values: [{ value: 'red', name: 'Red', parent: '' }] },
      ],
    };
    const close = (settings?: VersionSettings) => void (kept = settings);
    TestBed.configureTestingModule({
      providers: [
        { provide: MAT_DIALOG_DATA, useValue: data },
        { provide: MatDialogRef, useValue: { close } },
      ],
    });
    const fixture = TestBed.createComponent(VersionSettingsDialog);
    fixture.detectChanges();
    const loader = TestbedHarnessEnvironment.loader(fixture);
    const selects = () => loader.getAllHarnesses(MatSelectHarness);
    const element = fixture.nativeElement as HTMLElement;
    const save = () => element.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }));
    const add = () =>
      [...element.querySelectorAll('button')].find((each) => each.textContent === 'Add a person')!.click();
    return { selects, save, add };
  }

  it('name people by what they are called, and keep them by their ids', async () => {
    const { selects, save, add } = open([]);
    const [owner] = await selects();
    expect(await owner!.getValueText()).toBe('Controller');
    await owner!.open();
    await owner!.clickOptions({ text: 'Ines' });
    add();
    const [, person, entities, values] = await selects();
    await person!.open();
    await person!.clickOptions({ text: 'Controller' });
    await entities!.open();
    await entities!.clickOptions({ text: SAMPLE_WORKSPACE.entities[0]!.name });
    await values!.open();
    await values!.clickOptions({ text: /Kiln|Red/ });
    save();
    expect(kept).toEqual({
      name: 'Plan',
      owner: 'ines',
      editors: [
        {
          person: 'local',
          entities: [SAMPLE_WORKSPACE.entities[0]!.code],
          values: { site: ['kiln'], team: ['red'] },
        },
      ],
      opening: null,
      rateSet: '',
    });
  });

  it('come back as they were when nothing is changed, and leave out who is not named', async () => {
    const editors = [{ person: 'ines', entities: [], values: { team: ['red'] } }];
    const { save, add } = open(editors);
    add();
    save();
    expect(kept).toMatchObject({ owner: 'local', editors });
  });
});
