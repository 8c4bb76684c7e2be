/**
 * What the browser of the tests said of cases, kept by what they are: it says the same each time, so that all cases are
 * held to it while only some of them are opened again. `npm run long` opens all of them; `CRAVEL_BROWSER_SAYS=keep` keeps
 * what it says.
 */
import assert from 'node:assert/strict';
import { writeFileSync } from 'node:fs';
import { basename } from 'node:path';
import { browserFolder } from './browser.ts';
import { digestOfCase, type Kept, readKept, type Said, saidFile } from './said-before.ts';

/** Of so many cases whose word is known one is asked for again. */
const AGAIN = 12;

/** `ask` gets the numbers of cases that are to be opened, and gives what is said of each, in their order. */
export async function saidByBrowser(
  about: string,
  cases: readonly unknown[],
  ask: (numbers: readonly number[]) => Promise<readonly Said[]>,
): Promise<Said[]> {
  const how = process.env.CRAVEL_BROWSER_SAYS ?? 'known';
  const version = basename(browserFolder);
  const kept = readKept();
  const known = how === 'known' ? (kept[version]?.[about] ?? {}) : {};
  const digests = cases.map(digestOfCase);
  const asked = [...cases.keys()].filter(
    (index) => known[digests[index] as string] === undefined || index % AGAIN === 0,
  );
  const answers = new Map<number, Said>();
  for (const [at, said] of (await ask(asked)).entries()) answers.set(asked[at] as number, said);
  const all = digests.map((digest, index) => {
    const said = answers.get(index);
    const before = known[digest];
    if (said !== undefined && before !== undefined)
      assert.deepEqual(said, before, `${about}: the browser says something else of case ${index} now`);
    return (said ?? before) as Said;
  });
  if (how === 'keep') {
    const own = Object.fromEntries(digests.map((digest, index) => [digest, all[index] as Said]));
    const next: Kept = { [version]: { ...kept[version], [about]: own } };
    writeFileSync(saidFile, `${JSON.stringify(next, null, 1)}\n`);
  }
  return all;
}
