/** What a script needs and does not find, as a browser says it. */
import { type TestContext, test } from 'node:test';
import type { OrderCase } from '../corpus/load-order-cases.ts';
import { filesOf, neededByScripts } from '../corpus/needed-by-scripts.ts';
import { pagesOfBrowser, servePlainly } from '../support/browser.ts';
import { saidByBrowser } from '../support/said-by-browser.ts';
import { temporaryFolder } from '../support/site.ts';

const newPage = pagesOfBrowser();
/** Pages that are open at once: most of their time they wait. */
const AT_ONCE = 2;
/** Cases that are opened side by side, each in a frame of its own. */
const TOGETHER = 60;

/** What fails on each page, as `file:line name`; of what does not parse, the file. */
async function failuresOf(t: TestContext, cases: readonly OrderCase[]): Promise<string[][]> {
  const numbers = [...cases.keys()];
  const rows = Array.from({ length: Math.ceil(cases.length / TOGETHER) }, (_none, row) =>
    numbers.slice(row * TOGETHER, (row + 1) * TOGETHER),
  );
  const frames = rows.map((row) =>
    row.map((index) => `<iframe src="${index}/index.html"></iframe>`).join(''),
  );
  const server = await servePlainly(
    temporaryFolder(
      t,
      Object.fromEntries([
        ...cases.flatMap((one, index) =>
          Object.entries(filesOf(one)).map(([path, content]) => [`${index}/${path}`, content] as const),
        ),
        ...frames.map(
          (markup, row) => [`row-${row}.html`, `<!doctype html><title>x</title>${markup}`] as const,
        ),
      ]),
    ),
  );
  const failures = cases.map((): string[] => []);
  const waiting = [...rows.keys()];
  const work = async () => {
    const page = await newPage();
    const session = await page.context().newCDPSession(page);
    await session.send('Runtime.enable');
    session.on('Runtime.exceptionThrown', ({ exceptionDetails }) => {
      const { url = '', lineNumber, exception, stackTrace } = exceptionDetails;
      const [frame] = stackTrace?.callFrames ?? [];
      const place = frame?.url || url;
      // Code that was put together has no address.
      if (!URL.canParse(place)) return;
      const [, index, path = ''] = /\/ferry\/(\d+)\/?(.*)$/.exec(new URL(place).pathname) ?? [];
      const line = (frame?.lineNumber ?? lineNumber) + 1;
      const failure = failureOf(exception?.description ?? '', path === '' ? 'index.html' : path, line);
      failures[Number(index)]?.push(failure);
    });
    for (let row = waiting.shift(); row !== undefined; row = waiting.shift()) {
      await page.goto(`${server.address}row-${row}.html`, { waitUntil: 'load' });
      for (const frame of page.frames())
        await frame.evaluate(() => {
          for (const button of document.querySelectorAll('button')) button.click();
        });
      // What rejects a promise is told a moment later.
      await page.evaluate(() => new Promise((done) => setTimeout(done)));
    }
    await page.close();
  };
  await Promise.all(Array.from({ length: AT_ONCE }, work));
  server.close();
  return failures.map((one) => [...new Set(one.filter((text) => text !== ''))].sort());
}

function failureOf(text: string, file: string, line: number): string {
  const missing = /^ReferenceError: (\S+) is not defined|before initialization/.exec(text);
  if (/^SyntaxError/.test(text)) {
    const lacking = /does not provide an export named '(\S+)'/.exec(text)?.[1];
    return lacking === undefined ? file : `${file}:${line} ${lacking}`;
  }
  if (/^Error: needs/.test(text)) return `${file}:${line}`;
  const early = /^ReferenceError: Cannot access '(\S+)' before/.exec(text)?.[1];
  if (missing !== null) return `${file}:${line} ${early ?? missing[1]}`;
  return /^TypeError: (?:Cannot (?:read|set) properties of (?:undefined|null)|Cannot destructure .*\bnull\b|\S+ is not a (?:function|constructor)|Failed to execute .* is not of type)/.test(
    text,
  )
    ? `${file}:${line}`
    : '';
}

test('what scripts need and do not find fails in a browser as it did when that was kept', async (t) => {
  const cases = Object.values(neededByScripts).flat();
  await saidByBrowser('what scripts need', cases, (numbers) =>
    failuresOf(
      t,
      numbers.map((index) => cases[index] as OrderCase),
    ),
  );
});
