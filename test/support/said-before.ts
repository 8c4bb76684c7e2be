/** What the browser of the tests said of cases when that was kept. */
import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { projectFolder } from './program.ts';

export const saidFile = join(projectFolder, 'test/corpus/said-by-browser.json');

export type Said = readonly string[];
/** By the browser, by what is asked, by the digest of a case. */
export type Kept = Record<string, Record<string, Record<string, Said>>>;

export function readKept(): Kept {
  return existsSync(saidFile) ? JSON.parse(readFileSync(saidFile, 'utf8')) : {};
}

export function digestOfCase(one: unknown): string {
  return createHash('sha256').update(JSON.stringify(one)).digest('hex').slice(0, 16);
}

/** What was said of each; undefined for a case that nobody asked for yet. */
export function saidBefore(about: string, cases: readonly unknown[]): (Said | undefined)[] {
  const [own = {}] = Object.values(readKept());
  return cases.map((one) => own[about]?.[digestOfCase(one)]);
}
