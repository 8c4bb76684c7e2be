/** Opens pages in a real browser, and gives what it and they tell. */
import puppeteer, { type Browser, type CDPSession, type Page, TimeoutError } from 'puppeteer-core';
import { CravelError, fail } from '../../core/errors.ts';
import type { DiskPath } from '../../disk/disk-path.ts';
import type { Proof, Said, StickingOut } from '../messages.ts';
import { browserFile } from '../page-files.ts';

/** Milliseconds that a page may take to load, and then to come to rest. */
const PATIENCE = 30_000;
const REST = 3000;
const QUIET = 250;
/** Height of the window (CSS pixels). */
const HEIGHT = 800;

/** A request that came to nothing. */
interface Failed {
  readonly address: string;
  /** The status, or the browser's own word for what went wrong. */
  readonly why: string;
  readonly isBlocked: boolean;
}

export interface Opened {
  readonly proof: Proof;
  readonly failed: readonly Failed[];
  /** What the browser says by itself, not the page. */
  readonly said: readonly Said[];
  readonly edges: readonly { readonly width: number; readonly sticksOut: readonly StickingOut[] }[];
  /** Addresses of other hosts that were not asked for. */
  readonly elsewhere: readonly string[];
}

export interface OpenOptions {
  readonly widths: readonly number[];
  /** Other hosts are asked, too. */
  readonly isOnline: boolean;
  /** Takes a picture of the whole page at each width; null where none is wanted. */
  readonly picture: ((width: number, png: Uint8Array) => void) | null;
}

/** Starts the browser at `path`. Throws a `CravelError` where it does not come up. */
export async function startBrowser(path: DiskPath): Promise<Browser> {
  try {
    return await puppeteer.launch({
      executablePath: path,
      headless: 'shell',
      // Whoever is root, as on build machines, has no sandbox to start it in.
      args: [...(process.getuid?.() === 0 ? ['--no-sandbox'] : []), '--disable-background-networking'],
      timeout: PATIENCE,
    });
  } catch (error) {
    throw fail('browser-fails', path, firstLine(error));
  }
}

/** Gives why where the page could not be looked at. */
export async function openPage(
  browser: Browser,
  address: string,
  options: OpenOptions,
): Promise<Opened | string> {
  const context = await browser.createBrowserContext();
  try {
    return await lookAt(await context.newPage(), address, options);
  } catch (error) {
    if (error instanceof CravelError) throw error;
    return error instanceof TimeoutError ? `it did not load in ${PATIENCE / 1000} seconds` : firstLine(error);
  } finally {
    await context.close().catch(() => {});
  }
}

function firstLine(error: unknown): string {
  return ((error as Error).message.split('\n')[0] ?? '').replace(/[:.]?\s*$/, '');
}

async function lookAt(
  page: Page,
  address: string,
  { widths, isOnline, picture }: OpenOptions,
): Promise<Opened> {
  const { origin } = new URL(address);
  const elsewhere = new Set<string>();
  const widest = Math.max(...widths);
  await page.setViewport({ width: widest, height: HEIGHT });
  await page.evaluateOnNewDocument(browserFile('looked.js'));
  const session = await page.createCDPSession();
  const { failed, said } = await listen(session, elsewhere);
  await page.setRequestInterception(true);
  page.on('request', (request) => {
    const url = request.url();
    const isOwn = url.startsWith(`${origin}/`) || !/^(?:https?|wss?):/.test(url);
    if (isOwn || isOnline) return void request.continue().catch(() => {});
    elsewhere.add(url);
    return void request.abort('blockedbyclient').catch(() => {});
  });
  page.on('dialog', (dialog) => void dialog.dismiss().catch(() => {}));
  await page.goto(address, { waitUntil: 'load', timeout: PATIENCE });
  await page.waitForNetworkIdle({ idleTime: QUIET, timeout: REST }).catch(() => {});
  const ask = (what: string) => page.evaluate(`window[Symbol.for('cravel.look')].${what}()`);
  const edges: { width: number; sticksOut: readonly StickingOut[] }[] = [];
  for (const width of widths) {
    await page.setViewport({ width, height: HEIGHT });
    edges.push({ width, sticksOut: (await ask('edges')) as readonly StickingOut[] });
    if (picture !== null) picture(width, await page.screenshot({ fullPage: true, type: 'png' }));
  }
  await page.setViewport({ width: widest, height: HEIGHT });
  return { proof: (await ask('proof')) as Proof, failed, said, edges, elsewhere: [...elsewhere] };
}

/** What the browser tells of requests and of itself, from now on. */
async function listen(
  session: CDPSession,
  elsewhere: ReadonlySet<string>,
): Promise<{ failed: Failed[]; said: Said[] }> {
  const failed: Failed[] = [];
  const said: Said[] = [];
  const addresses = new Map<string, string>();
  session.on('Network.requestWillBeSent', ({ requestId, request }) => addresses.set(requestId, request.url));
  session.on('Network.responseReceived', ({ response: { url, status } }) => {
    if (status >= 400) failed.push({ address: url, why: String(status), isBlocked: false });
  });
  session.on(
    'Network.loadingFailed',
    ({ requestId, errorText, blockedReason, corsErrorStatus, canceled }) => {
      const address = addresses.get(requestId);
      if (address === undefined || elsewhere.has(address) || (canceled && blockedReason === undefined))
        return;
      const why = corsErrorStatus?.corsError ?? blockedReason ?? errorText;
      const isBlocked = blockedReason !== undefined || corsErrorStatus !== undefined;
      failed.push({ address, why, isBlocked });
    },
  );
  session.on('Log.entryAdded', ({ entry: { source, level, text, url = null, lineNumber } }) => {
    // The page tells of its own policy, with the directive.
    if (
      source === 'network' ||
      /Content Security Policy/.test(text) ||
      (level !== 'error' && level !== 'warning')
    )
      return;
    const line = lineNumber === undefined ? null : lineNumber + 1;
    said.push({ kind: level === 'error' ? 'blocked' : 'warning', text, address: url, line });
  });
  await session.send('Network.enable');
  await session.send('Log.enable');
  return { failed, said };
}
