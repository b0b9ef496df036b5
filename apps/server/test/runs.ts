/**
 * A quarter of so many cases that are made by chance, or all of them where `npm run bench -- --properties` asks for it:
 * each run of the tests tries others.
 */
export const someOf = (cases: number): number => (process.env['WHOLE_PROPERTIES'] ? cases : Math.ceil(cases / 4));
