/** Serves the deck, the preview's own page, on a host of its own: pages of the site can neither read nor call it. */
import type { IncomingMessage, Server, ServerResponse } from 'node:http';
import { text as textOf } from 'node:stream/consumers';
import { ArrayMaxSize, IsArray, IsString } from 'class-validator';
import { WebSocketServer } from 'ws';
import { CravelError } from '../core/errors.ts';
import { shape } from '../core/shape/shape.ts';
import type { DiskPath } from '../disk/disk-path.ts';
import { mendFindings, undoFromDeck } from './changing.ts';
import { isForUs, isFromUs, LOOPBACK, listen, say, serverOf } from './loopback.ts';
import type { Done, Lack, PageAbout, SiteNews } from './messages.ts';
import { browserFile } from './page-files.ts';
import { Secret } from './secret.ts';

/** What the deck shows, and what it acts on. */
export interface BehindDeck {
  readonly siteOrigin: string;
  /** The project's folder. */
  readonly projectRoot: DiskPath;
  news(): SiteNews;
  about(path: string): PageAbout | null;
  lackAt(target: string): Lack | null;
  pagesThatLoad(file: string): readonly string[];
  /** Takes in what was just changed. */
  refresh(): Promise<void>;
}

/** Bytes of a request's body at most. */
const MOST = 1 << 20;

class MendRequest {
  @IsArray()
  @ArrayMaxSize(10_000)
  @IsString({ each: true })
  keys!: string[];
}

export class DeckServer {
  readonly #server: Server;
  readonly #sockets = new WebSocketServer({ noServer: true, maxPayload: 1024 });
  /** Whoever acts or asks has it: it stands in the deck's page alone. */
  readonly #token = new Secret();
  #port = 0;

  constructor(
    readonly behind: BehindDeck,
    readonly port: number,
  ) {
    this.#server = serverOf((request, response) => {
      this.#answer(request, response).catch((error) => {
        if (response.headersSent) return response.destroy();
        const told = error instanceof CravelError ? error.message : 'This went wrong in cravel itself.';
        return say(response, error instanceof CravelError ? 409 : 500, told);
      });
    });
    this.#server.on('upgrade', (request, socket, head) => {
      const isOurs =
        isForUs(request, this.#port) && isFromUs(request) && this.#token.isKnown(tokenIn(request));
      if (!isOurs) return void socket.end('HTTP/1.1 403 Forbidden\r\nConnection: close\r\n\r\n');
      this.#sockets.handleUpgrade(request, socket, head, (deck) => {
        deck.on('error', () => {});
        deck.send(JSON.stringify(behind.news()));
      });
    });
  }

  async start(): Promise<void> {
    this.#port = await listen(this.#server, this.port);
  }

  get address(): string {
    return `http://${LOOPBACK}:${this.#port}/`;
  }

  /** To every deck that is open; without one nothing is made ready. */
  tell(): void {
    if (this.#sockets.clients.size === 0) return;
    const text = JSON.stringify(this.behind.news());
    for (const deck of this.#sockets.clients) deck.send(text);
  }

  end(): void {
    for (const deck of this.#sockets.clients) deck.terminate();
    this.#server.close();
    this.#server.closeAllConnections();
  }

  async #answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const { method = '', url = '' } = request;
    if (isFromElsewhere(request)) return say(response, 403, 'Only the deck itself may ask for this.');
    if (!isForUs(request, this.#port))
      return say(response, 403, 'The deck has another name: open the address that the preview printed.');
    const [path = '', query = ''] = url.split('?');
    // By another name of this machine it would be another host, to which no page talks.
    if (path === '/' && request.headers.host !== new URL(this.address).host) {
      response.setHeader('location', this.address);
      return say(response, 302, `The deck is at ${this.address}`);
    }
    const file = files.get(path);
    if (file !== undefined && (method === 'GET' || method === 'HEAD')) return this.#file(response, file);
    if (!this.#token.isKnown(tokenIn(request)))
      return say(response, 403, 'Only the deck itself may ask for this.');
    const asked = (name: string) => new URLSearchParams(query).get(name) ?? '';
    if (method === 'GET' && path === '/about') {
      const about = this.behind.about(asked('page'));
      return about === null ? say(response, 404, 'There is no such page.') : tellJson(response, about);
    }
    if (method === 'GET' && path === '/lack') return tellJson(response, this.behind.lackAt(asked('target')));
    if (method === 'GET' && path === '/loading')
      return tellJson(response, this.behind.pagesThatLoad(asked('file')));
    if (method !== 'POST') return say(response, 404, 'The deck has nothing of that name.');
    if (!isFromUs(request)) return say(response, 403, 'Only the deck itself may do this.');
    if (path === '/mend') return tellJson(response, await this.#mend(request));
    if (path === '/undo')
      return tellJson(response, await this.#change(undoFromDeck(this.behind.projectRoot)));
    return say(response, 404, 'The deck can do nothing of that name.');
  }

  async #mend(request: IncomingMessage): Promise<Done> {
    const { value, problems } = shape(MendRequest, jsonOf(await bodyOf(request)));
    if (problems.length > 0) return { notes: ['The deck is out of date: load it again.'], hasChanged: false };
    return this.#change(mendFindings(this.behind.projectRoot, new Set(value.keys)));
  }

  async #change(work: Promise<Done>): Promise<Done> {
    const done = await work;
    if (done.hasChanged) await this.behind.refresh();
    return done;
  }

  #file(response: ServerResponse, { name, type }: OwnFile): void {
    const { siteOrigin } = this.behind;
    const text = browserFile(name);
    const filled =
      name === 'deck.html'
        ? text.replace('CRAVEL_TOKEN', this.#token.word).replace('CRAVEL_SITE', siteOrigin)
        : text;
    response
      .writeHead(200, {
        'content-type': `${type}; charset=utf-8`,
        'cache-control': 'no-store',
        'content-security-policy': `default-src 'none'; script-src 'self'; style-src 'self'; connect-src 'self'; img-src 'self' data:; frame-src ${siteOrigin}; frame-ancestors 'none'; base-uri 'none'; form-action 'none'`,
        'cross-origin-resource-policy': 'same-origin',
        'cross-origin-opener-policy': 'same-origin',
        'x-content-type-options': 'nosniff',
        'x-frame-options': 'DENY',
        'referrer-policy': 'no-referrer',
      })
      .end(filled);
  }
}

interface OwnFile {
  readonly name: Parameters<typeof browserFile>[0];
  readonly type: string;
}

/** By whatever path somebody asks for: no property of an object is one. */
const files: ReadonlyMap<string, OwnFile> = new Map<string, OwnFile>([
  ['/', { name: 'deck.html', type: 'text/html' }],
  ['/deck.js', { name: 'deck.js', type: 'text/javascript' }],
  ['/deck.css', { name: 'deck.css', type: 'text/css' }],
]);

/** A page can set no header of its own on another host's requests, nor know the word. */
function tokenIn({ headers, url = '' }: IncomingMessage): string {
  const given = headers['x-cravel-deck'];
  return typeof given === 'string' ? given : (new URLSearchParams(url.split('?')[1]).get('token') ?? '');
}

/** True for what a page of another host asks for (Fetch Metadata): whoever opens the deck in a window may. */
function isFromElsewhere({ headers }: IncomingMessage): boolean {
  const site = headers['sec-fetch-site'];
  return (
    site !== undefined &&
    site !== 'none' &&
    site !== 'same-origin' &&
    headers['sec-fetch-dest'] !== 'document'
  );
}

async function bodyOf(request: IncomingMessage): Promise<string> {
  if (Number(request.headers['content-length'] ?? MOST + 1) > MOST) return '';
  return textOf(request);
}

function jsonOf(text: string): object {
  try {
    const value: unknown = JSON.parse(text);
    return typeof value === 'object' && value !== null ? value : {};
  } catch {
    return {};
  }
}

function tellJson(response: ServerResponse, value: unknown): void {
  response
    .writeHead(200, { 'content-type': 'application/json; charset=utf-8', 'cache-control': 'no-store' })
    .end(JSON.stringify(value));
}
