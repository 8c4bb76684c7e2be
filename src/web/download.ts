/** Fetches one file from a web host, within limits of time and size. */
import { lookup } from 'node:dns/promises';
import { BlockList } from 'node:net';
import { CravelError, fail } from '../core/errors.ts';
import type { Allowance } from '../core/library/allowance.ts';
import { authorization } from './authorization.ts';
import { MOST_HOPS, sentOnBy, TOO_FAR } from './redirects.ts';
import { whyNotFetched } from './why.ts';

export interface Downloaded {
  /** Where it came from in the end, redirects followed. */
  readonly url: string;
  readonly type: string;
  readonly bytes: Uint8Array;
}

/** Milliseconds until an answer must be complete, and until all that are asked for are. */
const TIME = 60_000;
const WHOLE_TIME = 300_000;

/** What several downloads have together. */
export interface Errand {
  readonly allowance: Allowance;
  readonly over: AbortSignal;
}

/** An errand that begins now. */
export function beginErrand(allowance: Allowance, time = WHOLE_TIME): Errand {
  return { allowance, over: AbortSignal.timeout(time) };
}

export function isWebAddress(source: string): boolean {
  return /^https?:\/\//i.test(source);
}

/**
 * Fetches a file; with `within`, one that belongs to another and lies in that folder of its host, wherever it is sent
 * on to. A host out there never leads to this machine or to a network of its own. Throws a `CravelError` that says why
 * the address could not be fetched.
 */
export async function download(
  address: string,
  { allowance, over }: Errand,
  within?: URL,
): Promise<Downloaded> {
  try {
    const signal = AbortSignal.any([over, AbortSignal.timeout(TIME)]);
    const isFromOutside = !(await isNearby(new URL(address)));
    let url = new URL(address);
    for (let hops = 0; hops <= MOST_HOPS; hops++) {
      if (within !== undefined && !url.href.startsWith(within.href))
        throw fail('not-fetched', address, `the host sends on to ${url.href}, out of the folder`);
      if (hops > 0 && isFromOutside && (await isNearby(url)))
        throw fail(
          'not-fetched',
          address,
          `the host sends on to ${url.host}, an address of this machine or network`,
        );
      const answer = await fetch(url, { signal, redirect: 'manual', headers: authorization(url) });
      const next = await sentOnBy(answer, url);
      if (next === null) return await bodyOf(answer, address, url, allowance);
      if (typeof next === 'string') throw fail('not-fetched', address, next);
      url = next;
    }
    throw fail('not-fetched', address, TOO_FAR);
  } catch (error) {
    if (error instanceof CravelError) throw error;
    if (over.aborted) throw fail('too-slow', address);
    throw fail('broken-off', address, whyNotFetched(error, TIME).text);
  }
}

async function bodyOf(
  answer: Response,
  address: string,
  url: URL,
  allowance: Allowance,
): Promise<Downloaded> {
  if (!answer.ok)
    throw fail('not-fetched', address, `the host answered ${answer.status} ${answer.statusText}`.trim());
  allowance.file();
  const pieces: Uint8Array[] = [];
  for await (const piece of answer.body ?? []) {
    allowance.bytes(piece.length);
    pieces.push(piece);
  }
  const type = answer.headers.get('content-type')?.toLowerCase() ?? '';
  return { url: url.href, type, bytes: Buffer.concat(pieces) };
}

/** Addresses of this machine and of networks of one's own (RFC 6890). */
const nearby = new BlockList();
for (const [network, bits] of [
  ['0.0.0.0', 8],
  ['10.0.0.0', 8],
  ['100.64.0.0', 10],
  ['127.0.0.0', 8],
  ['169.254.0.0', 16],
  ['172.16.0.0', 12],
  ['192.168.0.0', 16],
] as const)
  nearby.addSubnet(network, bits, 'ipv4');
for (const [network, bits] of [
  ['::', 127],
  ['fc00::', 7],
  ['fe80::', 10],
] as const)
  nearby.addSubnet(network, bits, 'ipv6');

/** True where the host of an address is this machine, or in a network of its own. */
async function isNearby({ hostname }: URL): Promise<boolean> {
  const host = hostname.replace(/^\[|\]$/g, '');
  try {
    const all = await lookup(host, { all: true });
    return all.some(({ address, family }) => nearby.check(address, family === 6 ? 'ipv6' : 'ipv4'));
  } catch {
    // Whoever asks for it is told that there is no such host.
    return false;
  }
}
