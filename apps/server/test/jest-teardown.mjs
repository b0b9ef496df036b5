import { rmSync } from 'node:fs';

export default function () {
  rmSync(process.env.MARGIN_LENS_TEST_FILES, { recursive: true, force: true });
}
