/** What every server of the preview holds to: whom it listens to, and whose requests it takes. */
import type { IncomingMessage, RequestListener, Server, ServerResponse } from 'node:http';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { fail } from '../core/errors.ts';
import { reasonOf } from '../disk/reason.ts';

export const LOOPBACK = '127.0.0.1';

/** Names of this machine that nobody else can have: any other one in a request is somebody else's page (DNS rebinding). */
const OWN_NAMES: readonly string[] = [LOOPBACK, 'localhost', '[::1]'];

/** Listens at `port`, 0 for a free one, and gives the port. Throws a `CravelError` where it is taken. */
export async function listen(server: Server, port: number, host = LOOPBACK): Promise<number> {
  await new Promise<void>((done, failed) => {
    server.once('error', (error) => failed(fail('port-taken', String(port), reasonOf(error))));
    server.listen(port, host, done);
  });
  return (server.address() as AddressInfo).port;
}

export function serverOf(answer: RequestListener): Server {
  return createServer({ maxHeaderSize: 16_384 }, answer);
}

/** True where a request names a host that is this preview. `others`: names beyond loopback that it has, too. */
export function isForUs({ headers }: IncomingMessage, port: number, others: readonly string[] = []): boolean {
  const host = headers.host?.toLowerCase();
  return [...OWN_NAMES, ...others].some((name) => host === `${name}:${port}`);
}

/** True where a request comes from a page of this very server, or from no page. */
export function isFromUs({ headers }: IncomingMessage): boolean {
  return headers.origin === `http://${headers.host}`;
}

/** A short answer in words. */
export function say(response: ServerResponse, status: number, text: string): void {
  response
    .writeHead(status, { 'content-type': 'text/plain; charset=utf-8', 'cache-control': 'no-store' })
    .end(`${text}\n`);
}
