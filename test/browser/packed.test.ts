/** Packed copies in a real browser: all of it loads below any address, and looks as the site did. */
import assert from 'node:assert/strict';
import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { type TestContext, test } from 'node:test';
import type { Page } from 'playwright-core';
import { pagesOfBrowser, servePlainly } from '../support/browser.ts';
import { cravel, projectFolder } from '../support/program.ts';
import { type Files, temporaryFolder } from '../support/site.ts';

const newPage = pagesOfBrowser();

/** Every page of a site, by its path, as a picture. Fails where anything does not load, or is complained of. */
async function picturesOf(page: Page, folder: string): Promise<Map<string, Buffer>> {
  const server = await servePlainly(folder);
  const pages = readdirSync(folder, { recursive: true }).map(String);
  const pictures = new Map<string, Buffer>();
  // In `npm test` some pages of each site.
  const most = process.env.CRAVEL_RUNS === undefined ? 3 : pages.length;
  for (const path of pages
    .filter((one) => /\.html$/.test(one))
    .sort()
    .slice(-most)) {
    const faults: string[] = [];
    page.removeAllListeners();
    page.on('response', (response) => {
      if (response.status() >= 400) faults.push(`${response.status()} ${response.url()}`);
    });
    page.on('requestfailed', (request) => faults.push(request.url()));
    page.on('pageerror', (error) => faults.push(error.message));
    page.on('console', (message) => {
      if (message.type() === 'error') faults.push(message.text());
    });
    await page.goto(server.address + path, { waitUntil: 'load' });
    await page.evaluate('document.fonts.ready.then(() => 0)');
    pictures.set(path, await page.screenshot({ fullPage: true, animations: 'disabled' }));
    assert.deepEqual(faults, [], `${folder}: ${path}`);
  }
  server.close();
  return pictures;
}

async function looksTheSame(t: TestContext, folder: string, site: string): Promise<void> {
  const page = await newPage({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' });
  const before = await picturesOf(page, site);
  for (const options of [
    [],
    ['--shrink', '--named-by-content', '--at', 'https://gullhaven.example/ferry/'],
  ]) {
    const target = join(folder, `packed${options.length}`);
    const { code, stderr } = cravel(folder, 'pack', '--to', target, '--dir', site, ...options);
    assert.equal(code, 0, stderr);
    const after = await picturesOf(page, target);
    assert.deepEqual([...after.keys()], [...before.keys()]);
    for (const [path, picture] of after)
      assert.ok(picture.equals(before.get(path) as Buffer), `${site} ${options}: ${path} looks another way`);
  }
  t.diagnostic(`${before.size} pages`);
}

test('the demo, packed, loads below any address and looks as it did', async (t) => {
  const folder = temporaryFolder(t);
  cravel(folder, 'demo', 'try');
  await looksTheSame(t, folder, join(folder, 'try/gullhaven-ferry'));
});

const svg = (colour: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="40" height="40"><symbol id="a"><circle r="9"/></symbol><rect width="40" height="40" fill="${colour}"/></svg>`;
const everything: Files = {
  'cravel.yaml': 'published-at: https://gullhaven.example/\n',
  'index.html': `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Ferry</title><meta name="description" content="All of it.">
<meta property="og:image" content="images/pier.svg"><link rel="manifest" href="app.webmanifest"><link rel="icon" href="/images/icon.svg"><link rel="preload" as="image" href="images/pier.svg"><link rel="modulepreload" href="js/tide.js">
<link rel="stylesheet" href="/css/main.css"><script type="importmap">{ "imports": { "tide": "./js/tide.js", "lib/": "/js/lib/" } }</script><style>h2 { background: url("images/pier.svg") }</style></head><body>
<h1>Ferry</h1><h2 style="border-image: url(images/icon.svg) 1">Piers</h2><picture><source srcset="images/wide.svg 2x, images/pier.svg" media="(min-width: 9000px)"><img src="images/pier.svg" srcset="images/pier.svg 1x, images/wide.svg 2x" alt=""></picture>
<svg width="40" height="40"><use href="images/icon.svg#a"/></svg><iframe src="inner/frame.html" title="inner"></iframe><p id="out">not yet</p>
<script>window.greets = "Ahoy";</script><script src="js/classic.js"></script><script type="module" src="js/main.js"></script></body></html>`,
  'inner/frame.html':
    '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Frame</title><meta name="viewport" content="width=device-width"><meta name="description" content="In."><link rel="stylesheet" href="../css/main.css"></head><body><p>Inner</p></body></html>',
  'css/main.css':
    '@import "base.css" screen;\n@import url(/css/more.css);\nh1 { background: url(../images/wide.svg) }\n',
  'css/base.css': 'body { color: navy; font: 16px/1.4 sans-serif }\n',
  'css/more.css': 'h2 { color: teal; content: image-set("../images/pier.svg" 1x) }\n',
  'js/classic.js':
    '/* The old way. */\nvar harbour = function greet(who) {\n  return greets + ", " + who;\n};\n',
  'js/main.js': `import { tide } from 'tide';\nimport { flag } from 'lib/flag.js';\nconst { late } = await import('./late.js');\nconst worker = new Worker(new URL('./worker.js', import.meta.url));\nconst data = await (await fetch('data/tides.json')).json();\nworker.onmessage = ({ data: told }) => {\n  document.querySelector('#out').textContent = [harbour('Ida'), tide, flag, late, data.high, told].join(' ');\n};\nworker.postMessage('pier');\n`,
  'js/tide.js': "export const tide = 'tide';\n",
  'js/late.js': "import { tide } from './tide.js';\nexport const late = 'late ' + tide;\n",
  'js/lib/flag.js': "export const flag = 'flag';\n",
  'js/worker.js': "importScripts('part.js');\nonmessage = ({ data }) => postMessage(part(data));\n",
  'js/part.js': "function part(what) {\n  return what + ' worked';\n}\n",
  'data/tides.json': '{ "high": 9 }',
  'app.webmanifest': '{ "name": "Ferry", "icons": [{ "src": "/images/icon.svg", "sizes": "any" }] }',
  'images/pier.svg': svg('teal'),
  'images/wide.svg': svg('navy'),
  'images/icon.svg': svg('maroon'),
};

test('whatever a page loads, and however, it loads from the copy', async (t) => {
  const folder = temporaryFolder(
    t,
    Object.fromEntries(Object.entries(everything).map(([path, text]) => [`site/${path}`, text])),
  );
  const options = ['--shrink', '--named-by-content', '--at', '/ferry/'];
  const { code, stdout } = cravel(join(folder, 'site'), 'pack', '--to', '../packed', ...options);
  assert.equal(code, 0, stdout);
  assert.match(stdout, /named +1\d files by content/);
  const page = await newPage({ viewport: { width: 1280, height: 800 } });
  const server = await servePlainly(join(folder, 'packed'));
  const faults: string[] = [];
  page.on('response', (response) => {
    if (response.status() >= 400) faults.push(`${response.status()} ${response.url()}`);
  });
  page.on('pageerror', (error) => faults.push(error.message));
  await page.goto(server.address);
  await page.locator('#out', { hasText: 'Ahoy, Ida tide flag late tide 9 pier worked' }).waitFor();
  assert.equal(
    await page.evaluate('getComputedStyle(document.querySelector("h2")).color'),
    'rgb(0, 128, 128)',
  );
  assert.deepEqual(faults, []);
  server.close();
});

/** `npm run long` takes every starter. */
const starters = process.env.CRAVEL_RUNS === undefined ? [] : readdirSync(join(projectFolder, 'starters'));

for (const starter of starters)
  test(`a project of the starter ${starter}, packed, loads below any address and looks as it did`, async (t) => {
    const folder = temporaryFolder(t);
    const pages = starter === 'bare' ? [] : ['--pages', 'north'];
    assert.equal(
      cravel(folder, 'scaffold', 'site', '--starter', starter, '--title', 'Ferry', ...pages).code,
      0,
    );
    const own = join(folder, 'site/src');
    await looksTheSame(t, folder, existsSync(own) ? own : join(folder, 'site'));
  });
