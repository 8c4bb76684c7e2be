/** Names that every script of a page finds there: those of the language and those of browsers. */
import globals from 'globals';

/** Those of the language (ECMA-262 19, B.2), and what the global object has of every object (20.1.3, B.2.2). */
const ofLanguage: readonly string[] = [
  ...Object.keys(globals.builtin),
  'undefined',
  'NaN',
  'Infinity',
  'escape',
  'unescape',
  ...Object.getOwnPropertyNames(Object.prototype),
];

const given: ReadonlySet<string> = new Set([
  ...ofLanguage,
  ...Object.keys(globals.browser),
  'external',
  'event',
  // What events are sent to has these (DOM 2.7).
  'addEventListener',
  'removeEventListener',
  'dispatchEvent',
]);

const givenToWorkers: ReadonlySet<string> = new Set([
  ...ofLanguage,
  ...Object.keys(globals.worker),
  ...Object.keys(globals.sharedWorker),
  ...Object.keys(globals.serviceworker),
]);

/** True for a name that a browser gives to scripts of pages. */
export function isGiven(name: string): boolean {
  return given.has(name);
}

/** True for a name that it gives to what runs in a worker, of any kind (HTML 10.2.1, Service Workers 4.1). */
export function isGivenToWorkers(name: string): boolean {
  return givenToWorkers.has(name);
}

export const givenNames: Iterable<string> = given;

/** Names by which the global object has itself (HTML 7.2.2.1, ECMA-262 19.1.1). */
export const selfNames: ReadonlySet<string> = new Set(['window', 'self', 'globalThis', 'frames']);
export const selfNamesOfWorkers: ReadonlySet<string> = new Set(['self', 'globalThis']);

/** Names of the global object that no script may declare anew (HTML 7.2.2, LegacyUnforgeable; ECMA-262 19.1). */
export const fixedNames: ReadonlySet<string> = new Set([
  'window',
  'document',
  'location',
  'top',
  'undefined',
  'NaN',
  'Infinity',
]);

/** Names that servers and loaders of modules give, by which a script tells where it is. */
export const serverNames: ReadonlySet<string> = new Set([
  'require',
  'module',
  'exports',
  'define',
  'process',
  'global',
  'Buffer',
  '__dirname',
  '__filename',
  '__esModule',
  'Deno',
  'Bun',
]);
