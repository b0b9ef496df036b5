import { execFileSync } from 'node:child_process';
import { copyFileSync } from 'node:fs';
import path from 'node:path';
import { newFolder } from './tiny-package';

const ROOT = path.resolve(__dirname, '../../..');
const MAKE = `import('./scripts/prepare.mjs').then((m) => { m.buildServer(); m.makeDemo(); m.importDemo(); })`;

/** A copy of the demo workspace, which is made unless it is there from the same sources. */
export function demoWorkspace(): string {
  execFileSync(process.execPath, ['-e', MAKE], { cwd: ROOT, stdio: 'ignore' });
  const copy = path.join(newFolder(), 'demo.db');
  copyFileSync(path.join(ROOT, 'var/demo.db'), copy);
  return copy;
}
