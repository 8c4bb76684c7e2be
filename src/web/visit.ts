/** Asks the host of a published site for all of it: gently, and each address once. */
import { createHash } from 'node:crypto';
import type { HostAnswer, Visit } from '../core/judge/visit.ts';
import { agreesWithAscii } from '../core/read/encoding.ts';
import { encodingOf } from '../core/read/written-as.ts';
import { isText } from '../core/site/formats.ts';
import { differenceOf, looksLikePage } from '../core/visiting/difference.ts';
import type { Question } from '../core/visiting/plan.ts';
import { authorization } from './authorization.ts';
import { BUSY, politeClient, statusOf } from './client.ts';
import { MOST_HOPS, sentOnBy, TOO_FAR } from './redirects.ts';
import { whyNotFetched } from './why.ts';

/** Requests under way at once. */
const MOST = 6;
/** Milliseconds that one request may take, its body included, and all of them together. */
const TIME = 30_000;
const WHOLE_TIME = 1_800_000;
/** Bytes of one answer that are looked at; of what is larger only the length is. */
const MOST_BYTES = 50_000_000;
/** Of what is not to be there, the start says enough. */
const ENOUGH = 65_536;
/** A host that did not answer so many times running is left alone. */
const MOST_SILENT = 5;

const BROKEN_OFF = 'the visit was broken off';

/** A file as it was packed. */
export interface ToVisit {
  readonly file: string;
  readonly bytes: number;
  /** SHA-256 in hexadecimal. */
  readonly hash: string;
  /** Its bytes; null where they are nowhere any more. */
  content(): Uint8Array | null;
}

export interface VisitOptions {
  /** Files by site path. */
  readonly files: ReadonlyMap<string, ToVisit>;
  /** What an earlier run was told, by address. */
  readonly known: ReadonlyMap<string, Visit>;
  /** Told of each answer, and how far the asking is. */
  readonly tell: (visit: Visit | null, done: number, total: number) => Promise<void> | void;
  /** Ends the asking before all of it is done. */
  readonly signal: AbortSignal;
  readonly time?: number;
  readonly wholeTime?: number;
}

export interface Visited {
  readonly visits: readonly Visit[];
  /** What could not be asked for, for reasons of this machine or since the time was over, with the reason. */
  readonly unasked: ReadonlyMap<string, string>;
}

/** The first question is for a name that cannot exist: what comes then says nothing of others. Never throws for what hosts do. */
export async function visitHost(
  questions: readonly Question[],
  { files, known, tell, signal, time = TIME, wholeTime = WHOLE_TIME }: VisitOptions,
): Promise<Visited> {
  const { default: pLimit } = await import('p-limit');
  const over = AbortSignal.any([signal, AbortSignal.timeout(wholeTime)]);
  const client = (await politeClient(over, wholeTime, time))([...BUSY, 500, 502, 504]);
  const visitor = new Visitor(client, over, time, files);
  const visits: Visit[] = [];
  const unasked = new Map<string, string>();
  let silent = 0;
  let closed = 'the host no longer answers';
  const ask = async (question: Question): Promise<void> => {
    const before = known.get(question.address);
    const why = over.aborted ? BROKEN_OFF : silent >= MOST_SILENT ? closed : null;
    const answer = before ?? (why === null ? await visitor.ask(question) : why);
    if (typeof answer === 'string') unasked.set(question.file, answer);
    else {
      silent = answer.status === 0 && question.asks === 'file' ? silent + 1 : 0;
      visits.push(answer);
    }
    await tell(typeof answer === 'string' ? null : answer, visits.length + unasked.size, questions.length);
  };
  const [first, ...others] = questions;
  if (first !== undefined) {
    await ask(first);
    const [answer] = visits;
    // Of a host that says nothing at all nothing else is to be told.
    if (answer !== undefined && answer.status === 0) {
      closed = answer.failure ?? closed;
      silent = MOST_SILENT;
      visits.pop();
    }
  }
  const limit = pLimit(MOST);
  await Promise.all(others.map((question) => limit(() => ask(question))));
  return { visits, unasked };
}

type Client = Awaited<ReturnType<typeof politeClient>> extends (statusCodes: number[]) => infer C ? C : never;

class Visitor {
  /** What comes for a name that cannot exist. */
  #anything: string | null = null;

  constructor(
    readonly client: Client,
    readonly over: AbortSignal,
    readonly time: number,
    readonly files: ReadonlyMap<string, ToVisit>,
  ) {}

  /** Why it could not be asked, where that is not for reasons of the host. */
  async ask(question: Question): Promise<Visit | string> {
    const { asks, file, address } = question;
    const base = { asks, file, address, encoding: null, failure: null, status: 0, type: '', movedTo: null };
    const nothing = { ...base, asksToLogIn: false, isAnything: false, difference: null };
    try {
      const url = new URL(address);
      const headers = authorization(url);
      const { origin, href } = url;
      let status = 0;
      for (let hops = 0; hops <= MOST_HOPS; hops++) {
        // What opens one host is not shown to another one.
        const response = await statusOf(
          this.client.get(url, { headers: url.origin === origin ? headers : {} }),
        );
        status = response.status;
        const next = await sentOnBy(response, url);
        if (next === null)
          return await this.#answerOf(question, response, url.href === href ? null : url.href);
        if (typeof next === 'string') return { ...nothing, status, failure: next };
        url.href = next.href;
        url.hash = '';
      }
      return { ...nothing, status, failure: TOO_FAR };
    } catch (error) {
      if (this.over.aborted) return BROKEN_OFF;
      const { text, isOurs } = whyNotFetched(error, this.time);
      return isOurs && asks === 'file' ? text : { ...nothing, failure: text };
    }
  }

  async #answerOf(question: Question, response: Response, movedTo: string | null): Promise<Visit> {
    const { asks, file } = question;
    const { status, headers } = response;
    const type = headers.get('content-type') ?? '';
    const packed = this.files.get(asks === 'letter-case' ? (this.#nameOf(file) ?? file) : file);
    const most = asks === 'private' ? ENOUGH : MOST_BYTES;
    const body = await this.#bodyOf(response, most);
    const content = status < 300 ? (packed?.content() ?? null) : null;
    const difference = status < 300 && packed !== undefined ? differenceFrom(packed, content, body) : null;
    // A host may well answer with the entry page whatever it is asked for.
    const isOther = packed === undefined || difference !== null;
    const answer: HostAnswer = {
      failure: null,
      status,
      type,
      movedTo,
      asksToLogIn: asks === 'file' && asksToLogIn(status, movedTo, body.bytes, content),
      isAnything: this.#isAnything(question, status, body.bytes) && isOther,
      difference,
    };
    const encoding = content === null || !isText(file) ? null : encodingToTell(file, content);
    return { ...question, ...answer, encoding };
  }

  #nameOf(turned: string): string | null {
    const lower = turned.toLowerCase();
    return [...this.files.keys()].find((path) => path.toLowerCase() === lower) ?? null;
  }

  async #bodyOf(response: Response, most: number): Promise<Body> {
    const told = Number(response.headers.get('content-length') ?? Number.NaN);
    if (told > most && most === MOST_BYTES) {
      await response.body?.cancel();
      return { bytes: null, length: told };
    }
    const pieces: Uint8Array[] = [];
    let length = 0;
    const signal = AbortSignal.any([this.over, AbortSignal.timeout(this.time)]);
    const reader = response.body?.getReader();
    const broken = new Promise<never>((_done, failed) => {
      signal.addEventListener('abort', () => failed(signal.reason), { once: true });
    });
    while (reader !== undefined) {
      const { value, done } = await Promise.race([reader.read(), broken]);
      if (done) break;
      pieces.push(value);
      length += value.length;
      if (length > most) {
        await reader.cancel();
        break;
      }
    }
    return { bytes: Buffer.concat(pieces), length };
  }

  /** Pages that say what is not there differ in nothing but that name. */
  #isAnything({ asks, file }: Question, status: number, bytes: Uint8Array | null): boolean {
    if (bytes === null || status >= 300) return false;
    const text = Buffer.from(bytes).toString('latin1').replaceAll(file, '');
    const hash = createHash('sha256').update(text).digest('hex');
    if (asks === 'invented') this.#anything = hash;
    return asks !== 'invented' && hash === this.#anything;
  }
}

interface Body {
  /** Null where there are too many. */
  readonly bytes: Uint8Array | null;
  readonly length: number;
}

function differenceFrom(
  packed: ToVisit,
  content: Uint8Array | null,
  { bytes, length }: Body,
): Visit['difference'] {
  const { file, hash, bytes: of } = packed;
  if (bytes === null) return length === of ? null : { is: 'other', bytes: length, of };
  if (createHash('sha256').update(bytes).digest('hex') === hash) return null;
  return content === null ? { is: 'other', bytes: length, of } : differenceOf(file, content, bytes);
}

/** Null where a host may say whatever it likes. */
function encodingToTell(file: string, content: Uint8Array): string | null {
  const isAscii = !content.some((byte) => byte > 0x7f);
  const encoding = encodingOf(file, content);
  return isAscii && agreesWithAscii(encoding) ? null : encoding;
}

const LOGIN = /(?:^|[/?&=._-])(?:log-?in|sign-?in|logon|auth|sso|saml|oauth2?|account)(?=$|[/?&=._-])/i;
const PASSWORD = /<input\b[^>]*\btype\s*=\s*["']?password/i;

/** By its status, by where it sends on to, or by a page with a field for a password that was not packed. */
function asksToLogIn(
  status: number,
  movedTo: string | null,
  bytes: Uint8Array | null,
  packed: Uint8Array | null,
): boolean {
  if (status === 401 || status === 407) return true;
  if (bytes === null || !looksLikePage(bytes)) return false;
  const hasField = PASSWORD.test(Buffer.from(bytes).toString('latin1'));
  if (packed !== null && PASSWORD.test(Buffer.from(packed).toString('latin1'))) return false;
  return hasField || (movedTo !== null && LOGIN.test(new URL(movedTo).pathname));
}
