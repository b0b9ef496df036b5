/** How long a property is tried in `npm test`, ms; `npm run bench -- --properties` takes as long as it needs. */
const LIMIT = process.env['WHOLE_PROPERTIES'] ? {} : { interruptAfterTimeLimit: 1_000 };

/** That many cases of a property, or as many as the time allows: each run of the tests tries others. */
export const runs = (numRuns: number): { numRuns: number; interruptAfterTimeLimit?: number } => ({ numRuns, ...LIMIT });
