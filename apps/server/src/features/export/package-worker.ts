import { workerData } from 'node:worker_threads';
import { writeZip } from './write-package';

export interface PackageWorkerData {
  databaseFile: string;
  folder: string;
  target: string;
}

const { databaseFile, folder, target } = workerData as PackageWorkerData;
await writeZip(databaseFile, folder, target);
