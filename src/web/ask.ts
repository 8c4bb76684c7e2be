/** Asks other hosts for what a site refers to: each address once, gently. */
import { createHash } from 'node:crypto';
import { Readable } from 'node:stream';
import type { ReadableStream } from 'node:stream/web';
import type { KyInstance } from 'ky';
import type { Question } from '../core/check/elsewhere.ts';
import type { Answer } from '../core/judge/rule.ts';
import { type Algorithm, integrityHolds } from '../core/site/integrity.ts';
import { authorization } from './authorization.ts';
import { BUSY, politeClient, statusOf } from './client.ts';
import { MOST_HOPS, sentOnBy, TOO_FAR } from './redirects.ts';
import { whyNotFetched } from './why.ts';

/** Requests under way at once, in all and to one host. */
const MOST = 8;
const MOST_TO_A_HOST = 2;
/** Milliseconds that one request may take, and all of them together. */
const TIME = 15_000;
const WHOLE_TIME = 600_000;
/** Bytes read to verify an integrity value; larger files are not verified. */
const MOST_BYTES = 100_000_000;

const FOR_GOOD: ReadonlySet<number> = new Set([301, 308]);
/** Statuses of hosts that do not answer programs, or not now: a visitor may well get an answer. */
const UNTOLD: ReadonlySet<number> = new Set([401, 402, 403, 405, 406, 407, 408, 425, 429, 451, 501]);

const NOTHING: Answer = { failure: null, moved: null, mismatches: new Set(), unasked: null, isOurs: false };

/** Told how many addresses were asked for. */
type Tell = (done: number, total: number) => Promise<void> | void;

export interface AskOptions {
  /** Milliseconds that one request may take, its body included. */
  readonly time?: number;
  /** Milliseconds that all of them may take. */
  readonly wholeTime?: number;
}

/** The answers by address. Never throws for what hosts do. */
export async function askHosts(
  questions: readonly Question[],
  tell: Tell = () => {},
  { time = TIME, wholeTime = WHOLE_TIME }: AskOptions = {},
): Promise<Map<string, Answer>> {
  const { default: pLimit } = await import('p-limit');
  const over = AbortSignal.timeout(wholeTime);
  const client = await politeClient(over, wholeTime, time);
  const asker = new Asker(client(BUSY), client([...BUSY, 500, 502, 504]), time, over);
  const late = `asking took longer than ${inMinutes(wholeTime)}`;
  const all = pLimit(MOST);
  const hosts = new Map<string, ReturnType<typeof pLimit>>();
  const limitOf = (address: string) => {
    const { host } = new URL(address);
    const limit = hosts.get(host) ?? pLimit(MOST_TO_A_HOST);
    hosts.set(host, limit);
    return limit;
  };
  const answers = new Map<string, Answer>();
  await Promise.all(
    questions.map((question) =>
      limitOf(question.address)(() =>
        all(async () => {
          const answer = over.aborted ? null : await asker.ask(question);
          answers.set(question.address, answer ?? { ...NOTHING, unasked: late, isOurs: true });
          await tell(answers.size, questions.length);
        }),
      ),
    ),
  );
  return answers;
}

function inMinutes(time: number): string {
  const minutes = Math.round(time / 60_000);
  return minutes === 1 ? 'a minute' : minutes === 0 ? `${time / 1000} seconds` : `${minutes} minutes`;
}

class Asker {
  constructor(
    readonly forHead: KyInstance,
    readonly forBody: KyInstance,
    readonly time: number,
    readonly over: AbortSignal,
  ) {}

  /** Null where the time for all came to its end. */
  async ask({ address, integrities }: Question): Promise<Answer | null> {
    let url = address;
    let isForGood = true;
    const after = () => (url === address ? '' : `the host sends on to ${url}, and there `);
    try {
      for (let hops = 0; hops <= MOST_HOPS; hops++) {
        const response = await this.#request(url, integrities.length > 0);
        const next = await sentOnBy(response, url);
        if (next === null) {
          const moved = url === address ? null : { to: url, isForGood };
          return await this.#answerOf(response, integrities, moved, after());
        }
        if (typeof next === 'string') return failure(next);
        isForGood &&= FOR_GOOD.has(response.status);
        next.hash = '';
        url = next.href;
      }
      return failure(TOO_FAR);
    } catch (error) {
      if (this.over.aborted) return null;
      const { text, isOurs } = whyNotFetched(error, this.time);
      return isOurs ? { ...NOTHING, unasked: text, isOurs } : failure(after() + text);
    }
  }

  /** HEAD first; GET where the body is wanted, and where a host has nothing good to say to HEAD. */
  async #request(address: string, wantsBody: boolean): Promise<Response> {
    const url = new URL(address);
    const headers = authorization(url);
    if (!wantsBody) {
      const response = await statusOf(this.forHead.head(url, { headers }));
      if (response.status < 400 || response.status === 429) return response;
    }
    return statusOf(this.forBody.get(url, { headers }));
  }

  async #answerOf(
    response: Response,
    integrities: readonly string[],
    moved: Answer['moved'],
    after: string,
  ): Promise<Answer> {
    const { status, statusText, ok } = response;
    const said = `${after}the host answers ${status} ${statusText}`.trim();
    if (!ok) {
      await response.body?.cancel();
      return UNTOLD.has(status) ? { ...NOTHING, unasked: said } : failure(said);
    }
    const signal = AbortSignal.any([this.over, AbortSignal.timeout(this.time)]);
    return { ...NOTHING, moved, mismatches: await mismatchesOf(response, integrities, signal) };
  }
}

async function mismatchesOf(
  response: Response,
  integrities: readonly string[],
  signal: AbortSignal,
): Promise<ReadonlySet<string>> {
  const hashes = new Map((['sha256', 'sha384', 'sha512'] as const).map((name) => [name, createHash(name)]));
  let length = 0;
  if (integrities.length === 0) {
    await response.body?.cancel();
    return new Set();
  }
  for await (const piece of response.body === null
    ? []
    : Readable.fromWeb(response.body as ReadableStream, { signal })) {
    length += piece.length;
    if (length > MOST_BYTES) return new Set();
    for (const hash of hashes.values()) hash.update(piece);
  }
  const digests = new Map(Array.from(hashes, ([name, hash]) => [name, hash.digest('base64')]));
  const digest = (algorithm: Algorithm) => digests.get(algorithm) as string;
  return new Set(integrities.filter((integrity) => !integrityHolds(integrity, digest)));
}

function failure(text: string): Answer {
  return { ...NOTHING, failure: text };
}
