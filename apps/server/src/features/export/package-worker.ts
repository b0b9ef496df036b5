import { answerThread } from '../../base/ask-thread';
import { writeZip } from './write-package';

export interface PackageWorkerData {
  databaseFile: string;
  folder: string;
  target: string;
}

await answerThread(({ databaseFile, folder, target }: PackageWorkerData) => writeZip(databaseFile, folder, target));
