import { USUAL_STYLE } from '@margin-lens/core';
import type { Viewer } from '../src/base/viewer';
import { checkIntegrity } from '../src/store/check-integrity';
import { Store, type Moment } from '../src/store/store';
import { Person } from '../src/store/tables';
import { undoImport } from '../src/store/undo-import';

/** Who may do and see everything. */
export const CONTROLLER: Viewer = {
  style: USUAL_STYLE,
  id: 'local',
  name: 'Controller',
  rights: 'all',
  entities: 'all',
  values: new Map(),
};

/** Works on a workspace file and its moment of now, and lets go of both. */
export async function onStore<T>(file: string, work: (store: Store, moment: Moment) => Promise<T> | T): Promise<T> {
  const store = await Store.open(file);
  const moment = (await store.moment())!;
  try {
    return await work(store, moment);
  } finally {
    await moment.close();
    await store.close();
  }
}

/** Makes people who may read and plan; ids are names in small letters. */
export const addPeople = (file: string, ...names: string[]): Promise<void> =>
  onStore(file, (store) =>
    store.aside(({ em }) => {
      for (const name of names)
        em.create(Person, { id: name.toLowerCase(), name, rights: ['read', 'plan'], entities: 'all', values: {} });
      return Promise.resolve();
    }),
  );

/** Checks of a workspace that do not agree, in words. */
export const unsound = (file: string): Promise<string[]> => onStore(file, unsoundIn);

/** The same of a workspace that is open, as it is now. */
export async function unsoundIn(store: Store): Promise<string[]> {
  const moment = (await store.moment())!;
  try {
    return (await checkIntegrity(store.file, moment))
      .filter(({ agrees }) => !agrees)
      .map(({ name, says }) => `${name}: ${says}`);
  } finally {
    await moment.close();
  }
}

/** Takes a delivery out again. */
export const undo = (file: string, runId: number): Promise<{ journals: number; lines: number }> =>
  onStore(file, (store) =>
    store.write('local', { kind: 'undo_import', subject: '' }, (write) => undoImport(write, runId)),
  );
