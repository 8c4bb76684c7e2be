/** What a script asks for and does not get is what the check calls broken, page by page. */
import assert from 'node:assert/strict';
import { type TestContext, test } from 'node:test';
import { platformAddresses } from '../corpus/script-addresses.ts';
import { pagesOfBrowser, servePlainly } from '../support/browser.ts';
import { checkFiles, type Files, temporaryFolder } from '../support/site.ts';

const newPage = pagesOfBrowser();

const picture = '<svg xmlns="http://www.w3.org/2000/svg"/>';
const bodyWith = (way: string) =>
  `<!doctype html><title>x</title><link rel=icon href=data:,><body><img id=x alt=""><script src="${way}js/a.js"></script>`;

/** A page in the root and one in a folder, that run the same; what only one of them gets is told of the other. */
const onBoth: readonly string[] = [
  'fetch("images/map.svg")',
  'fetch("../images/map.svg")',
  'new Worker("js/w.js")',
  'import("./b.js")',
  'const s = document.createElement("script"); s.src = "js/w.js"; document.body.append(s)',
  'const s = document.createElement("script"); s.src = "../js/b.js"; document.body.append(s)',
];

/** Pages that are open at once: most of their time they wait. */
const AT_ONCE = 6;

/** Opens the pages of all sites, each in a folder of its own; gives what each page asked for and did not get. */
async function refusedBy(
  t: TestContext,
  sites: readonly Files[],
  pages: readonly string[],
): Promise<Map<string, string[]>[]> {
  const all = sites.flatMap((files, index) =>
    Object.entries(files).map(([path, content]) => [`${index}/${path}`, content] as const),
  );
  const server = await servePlainly(temporaryFolder(t, Object.fromEntries(all)));
  const refused = sites.map(() => new Map<string, string[]>());
  const waiting = sites.flatMap((_files, index) => pages.map((path) => ({ index, path })));
  const work = async () => {
    for (let next = waiting.shift(); next !== undefined; next = waiting.shift()) {
      const { index, path } = next;
      const found = new Set<string>();
      const page = await newPage();
      page.on('response', (response) => {
        const asked = new URL(response.url()).pathname
          .replace(`/ferry/${index}/`, '')
          .replace('/ferry/', '/');
        if (response.status() >= 400) found.add(asked);
      });
      await page.goto(`${server.address}${index}/${path}`, { waitUntil: 'networkidle' }).catch(() => {});
      refused[index]?.set(path, [...found].sort());
      await page.close();
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, work));
  server.close();
  return refused;
}

function filesWith(code: string): Files {
  return {
    'index.html': bodyWith(''),
    'js/a.js': code,
    'js/b.js': 'fetch("images/pier.svg")',
    'js/w.js': 'fetch("../images/pier.svg")',
    'images/pier.svg': picture,
    'images/map.svg': picture,
  };
}

test('what a script asks for and does not get is told, and nothing else', async (t) => {
  const sites = platformAddresses.map(([code]) => filesWith(code));
  const refused = await refusedBy(t, sites, ['index.html']);
  for (const [index, files] of sites.entries()) {
    const broken = checkFiles(files).findings.filter(({ grade }) => grade === 'broken');
    const told = broken.map(({ target, written }) => target ?? written.replace('../', '/'));
    assert.deepEqual(refused[index]?.get('index.html'), told, platformAddresses[index]?.[0]);
  }
});

test('of pages that run one script, those are named where it fails', async (t) => {
  const pages = ['index.html', 'piers/a.html'];
  const sites = onBoth.map((code) => ({ ...filesWith(code), 'piers/a.html': bodyWith('../') }));
  const refused = await refusedBy(t, sites, pages);
  for (const [index, files] of sites.entries()) {
    const { findings } = checkFiles(files);
    const failing = findings.filter(({ rule }) => rule === 'absent' || rule === 'beyond-site');
    const told = new Set(failing.flatMap((finding) => finding.pages ?? pages));
    assert.deepEqual(
      pages.filter((page) => (refused[index]?.get(page)?.length ?? 0) > 0),
      pages.filter((page) => told.has(page)),
      onBoth[index],
    );
  }
});
