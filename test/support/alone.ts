/** Builds of libraries, each alone in a page: the names that it makes there, and what it throws, held to what is found. */
import { readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Page } from 'playwright-core';
import { isIdentifier } from '../../src/core/order/made-names.ts';
import { scriptFacts } from '../../src/core/order/script-facts.ts';
import type { ScriptFacts } from '../../src/core/order/steps.ts';

/** What each build makes otherwise than was found, in words; nothing of those that are as they were found. */
export async function differencesAlone(
  builds: ReadonlyMap<string, string>,
  newPage: () => Promise<Page>,
): Promise<string[]> {
  const server = createServer(({ url = '' }, response) => {
    const name = decodeURIComponent(url.slice(2));
    if (url.startsWith('/p')) {
      response.setHeader('content-type', 'text/html');
      const script = name === '' ? '' : `<script src="/s${encodeURIComponent(name)}"></script>`;
      response.end(`<!doctype html><html><head></head><body>${script}</body></html>`);
      return;
    }
    const path = builds.get(name);
    response.setHeader('content-type', 'text/javascript; charset=utf-8');
    response.writeHead(path === undefined ? 404 : 200).end(path === undefined ? '' : readFileSync(path));
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  try {
    const page = await newPage();
    const given = new Set((await openAlone(page, address, '')).names);
    await page.close();
    const differences: string[] = [];
    for (const [name, path] of builds) {
      const fresh = await newPage();
      const { names, thrown } = await openAlone(fresh, address, name);
      await fresh.close();
      const said = compared(
        names.filter((one) => !given.has(one)),
        thrown,
        readFileSync(path, 'utf8'),
        given,
      );
      if (said !== null) differences.push(`${name}: ${said}`);
    }
    return differences;
  } finally {
    server.close();
  }
}

/** The names of the global object, and what was thrown, once a page with that build was loaded. */
async function openAlone(
  page: Page,
  address: string,
  name: string,
): Promise<{ names: string[]; thrown: string[] }> {
  const thrown: string[] = [];
  page.on('pageerror', (error) => thrown.push(`${error.name}: ${error.message}`));
  await page.route(
    (url) => !url.href.startsWith(address),
    (route) => route.abort(),
  );
  await page.goto(`${address}/p${encodeURIComponent(name)}`);
  return { names: await page.evaluate(() => Object.getOwnPropertyNames(globalThis)), thrown };
}

function compared(
  made: readonly string[],
  thrown: readonly string[],
  text: string,
  given: ReadonlySet<string>,
): string | null {
  const facts = scriptFacts(text, 'script');
  const { sure, all, needs, isOpen } = found(facts);
  // What no script can say as a name nobody needs.
  const named = made.filter(isIdentifier);
  const missed = isOpen ? [] : named.filter((name) => !all.has(name));
  // Who throws does not come to all that it would make.
  const extra =
    thrown.length > 0
      ? []
      : [...sure].filter((name) => !given.has(name) && isIdentifier(name) && !named.includes(name));
  const isRefused = thrown.some((error) => error.startsWith('SyntaxError'));
  const isAlike =
    (facts === null) === isRefused && thrown.length > 0 === (needs.length > 0 || facts === null);
  if (missed.length + extra.length === 0 && isAlike) return null;
  return `missed [${missed}], too many [${extra}], needs [${needs}], thrown [${thrown}]`;
}

function found(facts: ScriptFacts | null) {
  const sure = new Set<string>();
  const all = new Set<string>();
  const needs: string[] = [];
  for (const { does, name, isSure, piece } of facts?.atLoad ?? []) {
    if (does === 'makes') {
      all.add(name);
      if (isSure) sure.add(name);
    } else if (does === 'needs' && isSure && piece === 0 && !all.has(name)) needs.push(name);
  }
  const isOpen = facts?.isUnknown === true || (facts?.atLoad.some(({ does }) => does === 'unknown') ?? false);
  return { sure, all, needs, isOpen };
}
