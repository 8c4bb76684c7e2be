/** Asks other hosts for what a site refers to: each address once, gently. */
import { createHash } from 'node:crypto';
import type { KyInstance } from 'ky';
import type { Answer, Question } from '../core/judge/elsewhere.ts';
import { type Algorithm, integrityHolds } from '../core/library/integrity.ts';
import { fetchErrorCode, whyNotFetched } from './reason.ts';
import { MOST_HOPS, REDIRECTS } from './redirects.ts';

/** Requests under way at once, in all and to one host. */
const MOST = 8;
const MOST_TO_A_HOST = 2;
/** Milliseconds that one request may take. */
const TIME = 15_000;
/** Tries after the first, and milliseconds to wait between them at most, whatever the host asks for. */
const TRIES = 2;
const LONGEST_WAIT = 20_000;
/** Bytes read to verify an integrity value; larger files are not verified. */
const MOST_BYTES = 100_000_000;

/** Statuses of hosts that may say more a little later, perhaps saying when. */
const BUSY = [429, 503];
const FOR_GOOD: ReadonlySet<number> = new Set([301, 308]);
/** Statuses of hosts that do not answer programs, or not now: a visitor may well get an answer. */
const UNTOLD: ReadonlySet<number> = new Set([401, 402, 403, 405, 406, 407, 408, 425, 429, 451, 501]);

const LASTING: ReadonlySet<string> = new Set(['ENOTFOUND', 'EAI_AGAIN', 'ECONNREFUSED']);

const NOTHING: Answer = { failure: null, moved: null, mismatches: new Set(), unasked: null, isOurs: false };

/** Told how many addresses were asked for. */
type Tell = (done: number, total: number) => Promise<void> | void;

export interface AskOptions {
  /** Milliseconds that one request may take. */
  readonly time?: number;
}

/** The answers by address. Never throws for what hosts do. */
export async function askHosts(
  questions: readonly Question[],
  tell: Tell = () => {},
  { time = TIME }: AskOptions = {},
): Promise<Map<string, Answer>> {
  const [{ default: ky }, { default: pLimit }] = await Promise.all([import('ky'), import('p-limit')]);
  const client = (statusCodes: number[]) =>
    ky.create({
      headers: { 'user-agent': 'cravel', accept: '*/*' },
      redirect: 'manual',
      timeout: time,
      retry: {
        limit: TRIES,
        methods: ['get', 'head'],
        statusCodes,
        afterStatusCodes: BUSY,
        maxRetryAfter: LONGEST_WAIT,
        backoffLimit: LONGEST_WAIT,
        retryOnTimeout: true,
        // A host that there is not will not be there in a second.
        shouldRetry: ({ error }) => (LASTING.has(fetchErrorCode(error)) ? false : undefined),
      },
    });
  const asker = new Asker(client(BUSY), client([...BUSY, 500, 502, 504]), time);
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
          answers.set(question.address, await asker.ask(question));
          await tell(answers.size, questions.length);
        }),
      ),
    ),
  );
  return answers;
}

class Asker {
  constructor(
    readonly forHead: KyInstance,
    readonly forBody: KyInstance,
    readonly time: number,
  ) {}

  async ask({ address, integrities }: Question): Promise<Answer> {
    let url = address;
    let isForGood = true;
    const after = () => (url === address ? '' : `the host sends on to ${url}, and there `);
    try {
      for (let hops = 0; hops <= MOST_HOPS; hops++) {
        const response = await this.#request(url, integrities.length > 0);
        const to = REDIRECTS.has(response.status) ? response.headers.get('location') : null;
        if (to === null) {
          const moved = url === address ? null : { to: url, isForGood };
          return await answerOf(response, integrities, moved, after());
        }
        isForGood &&= FOR_GOOD.has(response.status);
        await response.body?.cancel();
        const next = URL.canParse(to, url) ? new URL(to, url) : null;
        if (next === null || !/^https?:$/.test(next.protocol))
          return failure(`the host sends on to what is no web address: ${to}`);
        next.hash = '';
        url = next.href;
      }
      return failure(`the host sends on more than ${MOST_HOPS} times`);
    } catch (error) {
      const { text, isOurs } = whyNotFetched(error, this.time);
      return isOurs ? { ...NOTHING, unasked: text, isOurs } : failure(after() + text);
    }
  }

  /** HEAD first; GET where the body is wanted, and where a host has nothing good to say to HEAD. */
  async #request(url: string, wantsBody: boolean): Promise<Response> {
    if (!wantsBody) {
      const response = await statusOf(this.forHead.head(url));
      if (response.status < 400 || response.status === 429) return response;
    }
    return statusOf(this.forBody.get(url));
  }
}

/** The response, be its status an error or a redirect. */
async function statusOf(request: Promise<Response>): Promise<Response> {
  try {
    return await request;
  } catch (error) {
    if (error instanceof Error && 'response' in error) return error.response as Response;
    throw error;
  }
}

async function answerOf(
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
  return { ...NOTHING, moved, mismatches: await mismatchesOf(response, integrities) };
}

async function mismatchesOf(
  response: Response,
  integrities: readonly string[],
): Promise<ReadonlySet<string>> {
  const hashes = new Map((['sha256', 'sha384', 'sha512'] as const).map((name) => [name, createHash(name)]));
  let length = 0;
  if (integrities.length === 0) {
    await response.body?.cancel();
    return new Set();
  }
  for await (const piece of response.body ?? []) {
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
