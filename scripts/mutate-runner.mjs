// Runs the core's tests inside the process that makes the changes: each change gets the core and its tests loaded anew,
// and only the tests that come past it, the quickest first. Loaded by the tool that `npm run mutate` fetches.
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import fc from 'fast-check';

// The same is made up each time, and nobody asks for the smallest of what fails.
fc.configureGlobal({ seed: 20261127, endOnFailure: true });

/** One change in so many is made, from this one on. */
const EVERY = Number(process.env.CRAVEL_EVERY ?? 1);
const FROM = Number(process.env.CRAVEL_FROM ?? 0);

/** What the changed code asks: the change that is made, the test that runs, how often it came past. */
const state = {};
globalThis.__stryker__ = state;

class CoreTests {
  // Each process has its own: one that starts must not write what another one reads.
  #bundle = join(process.cwd(), `.tests/mutated-${process.pid}.mjs`);
  #loads = 0;
  #times = join(process.cwd(), '.tests/times.json');
  /** Milliseconds that a test took when nothing was changed, by its id. */
  #took = {};

  capabilities() {
    return { reloadEnvironment: true };
  }

  init() {
    const text = readFileSync(join(process.cwd(), '.tests/core.test.mjs'), 'utf8');
    const collected = text.replaceAll(
      /^import \{ test(?: as (\w+))? \} from "node:test";$/gm,
      (_, own = 'test') => {
        return `const ${own} = globalThis.collectTest;`;
      },
    );
    writeFileSync(this.#bundle, collected);
    if (existsSync(this.#times)) this.#took = JSON.parse(readFileSync(this.#times, 'utf8'));
  }

  async dryRun() {
    Object.assign(state, { activeMutant: undefined, hitCount: undefined, hitLimit: undefined });
    state.mutantCoverage = { static: {}, perTest: {} };
    const tests = [];
    for (const one of await this.#load()) {
      state.currentTestId = one.id;
      const result = await runTest(one);
      this.#took[one.id] = result.timeSpentMs;
      tests.push(result);
    }
    writeFileSync(this.#times, JSON.stringify(this.#took));
    state.currentTestId = undefined;
    const { mutantCoverage } = state;
    state.mutantCoverage = undefined;
    return { status: 'complete', tests, mutantCoverage };
  }

  async mutantRun({ testFilter, activeMutant, hitLimit }) {
    if (Number(activeMutant.id) % EVERY !== FROM) return { status: 'error', errorMessage: 'not asked for' };
    Object.assign(state, { activeMutant: activeMutant.id, hitCount: 0, hitLimit });
    let ran = 0;
    try {
      const wanted = testFilter && new Set(testFilter);
      const tests = (await this.#load()).filter(({ id }) => wanted?.has(id) ?? true);
      tests.sort((a, b) => this.#took[a.id] - this.#took[b.id]);
      for (const one of tests) {
        ran++;
        const { status, failureMessage } = await runTest(one);
        if (state.hitCount > hitLimit) return { status: 'timeout' };
        if (status === FAILED)
          return { status: 'killed', killedBy: [one.id], failureMessage, nrOfTests: ran };
      }
      return { status: 'survived', nrOfTests: ran };
    } catch (error) {
      // A core that cannot even be loaded is noticed by every test.
      return { status: 'killed', killedBy: ['0'], failureMessage: String(error), nrOfTests: ran };
    }
  }

  async #load() {
    const tests = [];
    globalThis.collectTest = (name, options, own = options) => {
      if (options.skip === undefined) tests.push({ id: `${tests.length} ${name}`, name, own });
    };
    await import(`${pathToFileURL(this.#bundle)}?load=${++this.#loads}`);
    return tests;
  }
}

const [SUCCEEDED, FAILED] = [0, 1];

async function runTest({ id, name, own }) {
  const afterwards = [];
  const start = performance.now();
  const result = { id, name, status: SUCCEEDED, timeSpentMs: 0 };
  try {
    await own({ after: (one) => afterwards.push(one) });
  } catch (error) {
    Object.assign(result, { status: FAILED, failureMessage: String(error) });
  }
  for (const one of afterwards) await one();
  result.timeSpentMs = performance.now() - start;
  return result;
}

export const strykerPlugins = [{ kind: 'TestRunner', name: 'core-tests', factory: () => new CoreTests() }];
