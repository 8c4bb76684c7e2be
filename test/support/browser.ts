/** The bundled Chromium, and a plain case-sensitive static server, for tests that need a real browser. */
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import chromium from '@sparticuz/chromium';
import { type Browser, chromium as playwright } from 'playwright-core';
import sirv from 'sirv';

export async function startBrowser(): Promise<Browser> {
  // In a single process, closing one page would end the browser.
  const args = chromium.args.filter((arg) => arg !== '--single-process');
  return playwright.launch({
    executablePath: await chromium.executablePath(),
    args: [...args, '--disable-background-networking'],
    headless: true,
  });
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
