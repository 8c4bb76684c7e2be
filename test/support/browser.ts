/** The bundled Chromium, and a plain case-sensitive static server, for tests that need a real browser. */
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join, relative } from 'node:path';
import { after, before } from 'node:test';
import chromium from '@sparticuz/chromium';
import {
  type Browser,
  type BrowserContext,
  type BrowserContextOptions,
  type Page,
  chromium as playwright,
} from 'playwright-core';
import sirv from 'sirv';
import { projectFolder } from './program.ts';

const { version } = JSON.parse(
  readFileSync(join(projectFolder, 'node_modules/@sparticuz/chromium/package.json'), 'utf8'),
);

/** Where the bundled Chromium is unpacked, once, before any test runs. */
export const browserFolder = join(projectFolder, `node_modules/.cache/cravel/chromium-${version}`);

export const browserProgram = join(browserFolder, 'chromium');

/** Milliseconds that the browser may take for one thing: a busy machine fails no test. */
const PATIENCE = 120_000;

export async function startBrowser(): Promise<Browser> {
  if (!existsSync(browserProgram)) throw new Error('The browser is not unpacked: run npm run pretest first.');
  // In a single process, closing one page would end the browser; without a zygote each page starts from nothing; and it is
  // to keep hosts apart as every browser does.
  const args = chromium.args.filter(
    (arg) => !/^--(?:single-process|no-zygote|disable-web-security)$/.test(arg),
  );
  return playwright.launch({
    executablePath: browserProgram,
    // Drawn in software, a page takes twice the time by way of what stands for a graphics card.
    args: [...args, '--disable-background-networking', '--disable-gpu'],
    headless: true,
    timeout: PATIENCE,
  });
}

/** One browser for all tests of a file; gives new pages of it, which share nothing, or with one `owner` what it has. */
export function pagesOfBrowser(): (options?: BrowserContextOptions, owner?: object) => Promise<Page> {
  let browser: Browser | undefined;
  before(async () => {
    browser = await startBrowser();
  });
  after(() => browser?.close());
  const contexts = new Map<object, Promise<BrowserContext>>();
  return async (options, owner) => {
    const own = browser as Browser;
    if (owner !== undefined && !contexts.has(owner)) contexts.set(owner, own.newContext(options));
    const context = owner && (await contexts.get(owner));
    const page = await (context === undefined ? own.newPage(options) : context.newPage());
    page.setDefaultTimeout(PATIENCE);
    return page;
  };
}

const types: Readonly<Record<string, string>> = {
  html: 'text/html',
  xhtml: 'application/xhtml+xml',
  css: 'text/css',
  js: 'text/javascript',
  mjs: 'text/javascript',
  svg: 'image/svg+xml',
  png: 'image/png',
};

/** The plainest host: a file is there under its very name or it is not; folders have an index.html or nothing. */
export async function servePlainly(folder: string): Promise<{ address: string; close(): void }> {
  const files = new Set(
    readdirSync(folder, { recursive: true, withFileTypes: true })
      .filter((entry) => entry.isFile())
      .map((entry) => relative(folder, join(entry.parentPath, entry.name))),
  );
  const server = createServer((request, response) => {
    const [, path] = /^\/ferry\/([^?]*)/.exec(request.url ?? '') ?? [];
    const asked = path === undefined ? '' : decoded(path).replace(/^\//, '');
    const file = asked === '' || asked.endsWith('/') ? `${asked}index.html` : asked;
    if (path === undefined || !files.has(file)) return void response.writeHead(404).end();
    const type = types[file.split('.').at(-1) ?? ''] ?? 'application/octet-stream';
    return void response.writeHead(200, { 'content-type': type }).end(readFileSync(join(folder, file)));
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  const { port } = server.address() as AddressInfo;
  return { address: `http://127.0.0.1:${port}/ferry/`, close: () => server.close() };
}

/** Percent-decoded, doubled slashes taken for one; an escape that is none stays as it is. */
function decoded(path: string): string {
  return path
    .replace(/\/{2,}/g, '/')
    .replace(/(?:%[0-9a-f]{2})+/gi, (run) => Buffer.from(run.replaceAll('%', ''), 'hex').toString());
}

/** Serves `folder` on loopback below `/ferry/`, as a host with other sites would. */
export async function serve(folder: string): Promise<{ address: string; close(): void }> {
  const answer = sirv(folder, { dev: true });
  const server = createServer((request, response) => {
    const notFound = () => void response.writeHead(404).end();
    if (!request.url?.startsWith('/ferry/')) return notFound();
    request.url = request.url.slice('/ferry'.length);
    return answer(request, response, notFound);
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  const { port } = server.address() as AddressInfo;
  return { address: `http://127.0.0.1:${port}/ferry/`, close: () => server.close() };
}
