/** Serves the site as a strict host would, with the preview's script in every page on its way out. */
import type { IncomingMessage, Server, ServerResponse } from 'node:http';
import etag from 'etag';
import fresh from 'fresh';
import send from 'send';
import { type WebSocket, WebSocketServer } from 'ws';
import { isPageName, mediaType } from '../core/site/formats.ts';
import type { DiskPath } from '../disk/disk-path.ts';
import { loadFile } from '../disk/load.ts';
import { realFileIn } from '../disk/real-file.ts';
import { type Shown, withAdded } from './added.ts';
import { type Answer, answerTo, asAddress, isHidden, type Served } from './answer.ts';
import { isForUs, isFromUs, listen, say, serverOf } from './loopback.ts';
import { OWN, type PageNews } from './messages.ts';

/** The site as it stands, and what is known of what it lacks. */
export interface SiteBehind {
  /** Of the last look. */
  readonly served: Served;
  /** The folder that gets published. */
  readonly root: DiskPath;
  /** Waits for a look that takes in what changed. */
  settled(): Promise<void>;
  /** Waits for a look that takes in what nobody has told of yet. */
  refresh(): Promise<void>;
  /** A page that helps, where nothing is served at an address. `path` is the site path that was asked for, if it is one. */
  helpFor(path: string | null, target: string): string;
  /** How many changes were told. */
  readonly change: number;
  /** The script for pages; null where they are sent as they are. */
  readonly script: string | null;
  /** The page that the site itself has for what is missing; null where it has none. */
  readonly notFound: string | null;
}

export interface SiteServerOptions {
  readonly port: number;
  /** To listen at; loopback alone unless said. */
  readonly host?: string;
  /** Names beyond loopback that requests may ask for. */
  readonly names?: readonly string[];
  /** Says whether somebody may come in, and answers where not; everybody may unless said. */
  readonly guard?: (request: IncomingMessage, response: ServerResponse | null) => boolean;
  /** Tells this preview from others at the same address. */
  readonly run: string;
}

export class SiteServer {
  readonly #server: Server;
  readonly #sockets = new WebSocketServer({ noServer: true, maxPayload: 1024 });
  port = 0;

  constructor(
    readonly behind: SiteBehind,
    readonly options: SiteServerOptions,
  ) {
    this.#server = serverOf((request, response) => {
      this.#answer(request, response).catch(() => {
        if (response.headersSent) response.destroy();
        else say(response, 500, 'This cannot be read.');
      });
    });
    this.#server.on('upgrade', (request, socket, head) => {
      const { guard = () => true } = options;
      const isOurs =
        this.#isForUs(request) && isFromUs(request) && request.url === `${OWN}/news` && guard(request, null);
      if (!isOurs) return void socket.end('HTTP/1.1 403 Forbidden\r\nConnection: close\r\n\r\n');
      this.#sockets.handleUpgrade(request, socket, head, (page) => {
        // A browser that goes away is no fault.
        page.on('error', () => {});
        tellOne(page, { is: 'hello', run: options.run, change: behind.change });
      });
    });
  }

  async start(): Promise<void> {
    const { port, host } = this.options;
    this.port = await listen(this.#server, port, host);
  }

  /** To every page that is open. */
  tell(news: PageNews): void {
    for (const page of this.#sockets.clients) tellOne(page, news);
  }

  end(): void {
    for (const page of this.#sockets.clients) page.terminate();
    this.#server.close();
    this.#server.closeAllConnections();
  }

  #isForUs(request: IncomingMessage): boolean {
    return isForUs(request, this.port, this.options.names);
  }

  async #answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const { method = '', url = '' } = request;
    if (!this.#isForUs(request))
      return say(response, 403, 'This preview has another name: open the address that it printed.');
    if (this.options.guard?.(request, response) === false) return;
    if (method !== 'GET' && method !== 'HEAD') {
      response.setHeader('allow', 'GET, HEAD');
      return say(response, 405, 'A static host answers to GET and HEAD alone.');
    }
    const { script } = this.behind;
    if (script !== null && url === `${OWN}/page.js`)
      return sendText(response, script, 'text/javascript; charset=utf-8');
    const answer = await this.#answerTo(url);
    switch (answer.is) {
      case 'no-path':
        return say(response, 400, 'No host has such a path.');
      case 'folder':
        response.setHeader('location', answer.to);
        return say(response, 301, `It is at ${answer.to}`);
      case 'missing':
        return this.#missing(answer.path, request, response);
      default:
        return this.#file(answer.path, request, response, 200);
    }
  }

  /** What is not there may be on its way. */
  async #answerTo(url: string): Promise<Answer> {
    const answer = answerTo(url, this.behind.served);
    if (answer.is !== 'missing') return answer;
    await this.behind.settled();
    return answerTo(url, this.behind.served);
  }

  #missing(path: string | null, request: IncomingMessage, response: ServerResponse): void | Promise<void> {
    const { notFound } = this.behind;
    if (notFound !== null && path !== null && path !== notFound)
      return this.#file(notFound, request, response, 404);
    if (!isOpened(request)) return say(response, 404, 'Not found.');
    const help = this.behind.helpFor(path, request.url ?? '');
    response.statusCode = 404;
    return sendText(response, help, 'text/html; charset=utf-8');
  }

  async #file(
    path: string,
    request: IncomingMessage,
    response: ServerResponse,
    status: number,
  ): Promise<void> {
    const { root } = this.behind;
    // What stands there now may be something else than when the site was looked at.
    const real = realFileIn(root, path);
    if (real === null) {
      await this.behind.refresh();
      if (realFileIn(root, path) === null) return this.#missing(path, request, response);
    }
    if (real === null || isHidden(real)) return say(response, 404, 'Not found.');
    const type = mediaType(path) || 'application/octet-stream';
    response.setHeader('cache-control', 'no-cache');
    if (isPageName(path)) {
      const bytes = loadFile(root, path);
      const shown = this.behind.script === null ? { bytes, charset: null } : withAdded(path, bytes);
      return sendPage(shown, type, request, response, status);
    }
    if (status !== 200) return say(response, status, 'Not found.');
    response.setHeader('content-type', type);
    await sendFile(request, response, root, path);
  }
}

function tellOne(page: WebSocket, news: PageNews): void {
  page.send(JSON.stringify(news));
}

/** True where somebody opens a page, in a window or a frame: others have no use for one that helps. */
function isOpened({ headers }: IncomingMessage): boolean {
  const what = headers['sec-fetch-dest'];
  if (typeof what === 'string') return what === 'document' || what === 'iframe' || what === 'frame';
  return /\btext\/html\b/.test(headers.accept ?? '');
}

function sendText(response: ServerResponse, text: string, type: string): void {
  response.setHeader('content-type', type);
  response.setHeader('cache-control', 'no-store');
  response.end(text);
}

function sendPage(
  shown: Shown,
  type: string,
  request: IncomingMessage,
  response: ServerResponse,
  status: number,
): void {
  const tag = etag(Buffer.from(shown.bytes));
  response.setHeader('content-type', shown.charset === null ? type : `${type}; charset=${shown.charset}`);
  response.setHeader('etag', tag);
  if (status === 200 && fresh(request.headers, { etag: tag })) return void response.writeHead(304).end();
  response.writeHead(status, { 'content-length': shown.bytes.length });
  response.end(request.method === 'HEAD' ? undefined : shown.bytes);
}

/** Ranges, dates and tags are those of the file (RFC 9110, 13 and 14). */
function sendFile(
  request: IncomingMessage,
  response: ServerResponse,
  root: DiskPath,
  path: string,
): Promise<void> {
  return new Promise((done) => {
    response.once('close', done);
    send(request, asAddress(path), {
      root,
      index: false,
      dotfiles: 'allow',
      cacheControl: false,
    })
      .on('error', ({ status }: { status: number }) => {
        if (status === 416) return response.writeHead(416).end();
        return say(response, status, status === 404 ? 'Not found.' : 'This cannot be read.');
      })
      .pipe(response);
  });
}
