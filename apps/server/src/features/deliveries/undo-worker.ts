import { answerThread } from '../../base/ask-thread';
import { databaseError } from '../../store/database-error';
import { Store } from '../../store/store';
import { undoImport } from '../../store/undo-import';

export interface UndoWorkerData {
  databaseFile: string;
  /** Id of the person who takes the delivery out. */
  person: string;
  runId: number;
}

await answerThread(async ({ databaseFile, person, runId }: UndoWorkerData) => {
  const store = await Store.open(databaseFile);
  try {
    return await store.write(person, { kind: 'undo_import', subject: '' }, (write) => undoImport(write, runId));
  } catch (error) {
    throw databaseError(error) ?? error;
  } finally {
    await store.close();
  }
});
