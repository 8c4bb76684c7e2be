/**
 * What the browser of the tests said of cases, kept by what they are: it says the same each time, so that all cases are
 * held to it while only some of them are opened again. `npm run long` opens all of them; `CRAVEL_BROWSER_SAYS=keep` keeps
 * what it says.
 */
import assert from 'node:assert/strict';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { browserFolder } from './browser.ts';
import { projectFolder } from './program.ts';

const file = join(projectFolder, 'test/corpus/said-by-browser.json');
/** Of so many cases whose word is known one is asked for again. */
const AGAIN = 12;

type Said = readonly string[];
/** By the browser, by what is asked, by the digest of a case. */
type Kept = Record<string, Record<string, Record<string, Said>>>;

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
  const digests = cases.map((one) =>
    createHash('sha256').update(JSON.stringify(one)).digest('hex').slice(0, 16),
  );
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
    writeFileSync(file, `${JSON.stringify(next, null, 1)}\n`);
  }
  return all;
}

function readKept(): Kept {
  return existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : {};
}
