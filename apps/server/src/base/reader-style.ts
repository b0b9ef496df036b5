import { AsyncLocalStorage } from 'node:async_hooks';
import { readStyleBy, USUAL_STYLE, type WritingStyle } from '@margin-lens/core';

const styles = new AsyncLocalStorage<WritingStyle>();
readStyleBy(() => styles.getStore() ?? USUAL_STYLE);

/** Does a work whose figures and days are put in words for one reader, with all that it starts. */
export const inStyle = <T>(style: WritingStyle, work: () => T): T => styles.run(style, work);
