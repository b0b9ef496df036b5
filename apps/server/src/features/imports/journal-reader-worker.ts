import { parentPort, workerData } from 'node:worker_threads';
import { openPackage } from './package-source';
import { readJournals, type JournalReaderData, type JournalReaderMessage } from './read-journals';

/** Batches that may be on their way; bounds memory when writing is slower than parsing. */
const BATCHES_AHEAD = 8;

const { location, masters, signals } = workerData as JournalReaderData;
const send = (message: JournalReaderMessage, transfer: ArrayBuffer[] = []) =>
  parentPort!.postMessage(message, transfer);
let sent = 0;

class Stopped extends Error {}

/** Waits until the writer has taken enough of what was sent. */
function waitForRoom(): void {
  for (;;) {
    if (Atomics.load(signals, 1) === 1) throw new Stopped();
    const taken = Atomics.load(signals, 0);
    if (sent - taken < BATCHES_AHEAD) return;
    Atomics.wait(signals, 0, taken, 1000);
  }
}

const source = await openPackage(location);
try {
  const read = await readJournals(source, masters, {
    batch: (batch) => {
      waitForRoom();
      sent++;
      send({ type: 'batch', batch }, [batch.lines.buffer as ArrayBuffer, batch.sums.buffer as ArrayBuffer]);
    },
    finding: (found) => send({ type: 'finding', found }),
    refused: (journal) => send({ type: 'refused', journal }),
    progress: (rows, bytes) => send({ type: 'progress', rows, bytes }),
  });
  send({ type: 'end', read });
} catch (error) {
  if (!(error instanceof Stopped)) throw error;
} finally {
  source.close();
}
