/** What a script asks for and does not get is what the check calls broken, page by page. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
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

/** Per page, the paths that were asked for and not got. */
async function refusedBy(pages: readonly string[], folder: string): Promise<Map<string, string[]>> {
  const server = await servePlainly(folder);
  const refused = new Map<string, string[]>();
  for (const path of pages) {
    const found = new Set<string>();
    const page = await newPage();
    page.on('response', (response) => {
      if (response.status() >= 400) found.add(new URL(response.url()).pathname.replace('/ferry/', ''));
    });
    await page.goto(server.address + path, { waitUntil: 'networkidle' }).catch(() => {});
    refused.set(path, [...found].sort());
    await page.close();
  }
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
  for (const [code] of platformAddresses) {
    const files = filesWith(code);
    const broken = checkFiles(files).findings.filter(({ grade }) => grade === 'broken');
    const refused = await refusedBy(['index.html'], temporaryFolder(t, files));
    const told = broken.map(({ target, written }) => target ?? written.replace('../', '/'));
    assert.deepEqual(refused.get('index.html'), told, code);
  }
});

test('of pages that run one script, those are named where it fails', async (t) => {
  for (const code of onBoth) {
    const files = { ...filesWith(code), 'piers/a.html': bodyWith('../') };
    const pages = ['index.html', 'piers/a.html'];
    const failing = checkFiles(files).findings.filter(
      ({ rule }) => rule === 'absent' || rule === 'beyond-site',
    );
    const refused = await refusedBy(pages, temporaryFolder(t, files));
    const told = new Set(failing.flatMap((finding) => finding.pages ?? pages));
    assert.deepEqual(
      pages.filter((page) => (refused.get(page)?.length ?? 0) > 0),
      pages.filter((page) => told.has(page)),
      code,
    );
  }
});
