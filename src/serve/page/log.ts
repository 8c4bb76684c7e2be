/** Keeps what happens in a page from its first script on: what arrived, what scripts made, what went wrong. */
import { type Arrival, OWN, type Said, type ScriptEffect } from '../messages.ts';
import { pathOn, withoutStamp } from './addresses.ts';

/** Lines that are kept at most. */
const MOST = 200;
/** Characters of a line at most. */
const LONGEST = 500;

export class Log {
  onNews: () => void = () => {};
  readonly #arrivals = new Map<string, Arrival>();
  readonly #asked = new Set<string>();
  readonly #scripts = new Map<string, ScriptEffect>();
  readonly #said: Said[] = [];
  /** Names of the window that were there before. */
  readonly #known = new Set(Object.getOwnPropertyNames(window));
  /** Workers load on their own, and tell the page nothing of it. */
  hasWorkers = false;

  constructor() {
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries()) this.#arrived(entry as PerformanceResourceTiming);
      this.onNews();
    }).observe({ type: 'resource', buffered: true });
    // What an element loads is told to no window (DOM, get the parent of a document).
    document.addEventListener('load', (event) => this.#ran(event.target), true);
    addEventListener('error', (event) => this.#failed(event), true);
    addEventListener('unhandledrejection', ({ reason }) => this.#say('threw', inWords(reason)));
    addEventListener(
      'securitypolicyviolation',
      ({ blockedURI, effectiveDirective, sourceFile, lineNumber }) =>
        this.#say(
          'blocked',
          `${blockedURI}: ${effectiveDirective} does not allow it`,
          sourceFile,
          lineNumber,
        ),
    );
    for (const [name, kind] of [
      ['error', 'error'],
      ['warn', 'warning'],
    ] as const) {
      const own = console[name];
      console[name] = (...values: unknown[]) => {
        this.#say(kind, values.map(inWords).join(' '));
        own.apply(console, values);
      };
    }
  }

  /** In the order in which they were asked for. */
  arrivals(): readonly Arrival[] {
    return [...this.#arrivals.values()];
  }

  scripts(): readonly ScriptEffect[] {
    return [...this.#scripts.values()];
  }

  said(): readonly Said[] {
    return this.#said;
  }

  /** True where the page asked for a path of its host (without escapes), whatever came of it. */
  hasAskedFor(path: string): boolean {
    return this.#asked.has(path);
  }

  #arrived({
    name,
    responseStatus,
    encodedBodySize,
    duration,
    initiatorType,
  }: PerformanceResourceTiming): void {
    const address = withoutStamp(name).replace(/[?#].*$/s, '');
    const path = pathOn(location.origin, address);
    const isOwn = path !== null;
    if (path?.startsWith(`${OWN}/`)) return;
    if (isOwn) this.#asked.add(path);
    if (isOwn && initiatorType === 'other' && /\.m?js$/.test(address)) this.hasWorkers = true;
    const time = Math.round(duration);
    this.#arrivals.set(address, { address, status: responseStatus, bytes: encodedBodySize, time, isOwn });
  }

  /** Names are those of the script that ran last. */
  #ran(target: EventTarget | null): void {
    if (!(target instanceof HTMLScriptElement) || target.src === '') return;
    this.#note(target.src, 'ran');
  }

  #note(address: string, outcome: ScriptEffect['outcome']): void {
    const names = Object.getOwnPropertyNames(window).filter((name) => !this.#known.has(name));
    for (const name of names) this.#known.add(name);
    const before = this.#scripts.get(address);
    const worse = before?.outcome === 'threw' ? 'threw' : outcome;
    this.#scripts.set(address, { address, outcome: worse, names: [...(before?.names ?? []), ...names] });
    this.onNews();
  }

  #failed(event: Event): void {
    const { target } = event;
    if (event instanceof ErrorEvent) {
      const { message, filename, lineno } = event;
      this.#say('threw', message, filename, lineno);
      if (filename !== '' && filename !== location.href) this.#note(filename, 'threw');
      return;
    }
    if (!(target instanceof Element)) return;
    const address = addressOf(target);
    if (address === null) return;
    this.#say('not there', `${target.localName} did not get it`, address);
    if (target instanceof HTMLScriptElement) this.#note(address, 'did not arrive');
  }

  #say(kind: Said['kind'], text: string, address: string | null = null, line: number | null = null): void {
    if (this.#said.length >= MOST) return;
    this.#said.push({
      kind,
      text: text.slice(0, LONGEST),
      address: address === '' ? null : address,
      line: line === 0 ? null : line,
    });
    this.onNews();
  }
}

function addressOf(element: Element): string | null {
  const { currentSrc, src, href, data } = element as Partial<
    HTMLImageElement & HTMLLinkElement & HTMLObjectElement
  >;
  return [currentSrc, src, href, data].find((one) => typeof one === 'string' && one !== '') ?? null;
}

function inWords(value: unknown): string {
  if (value instanceof Error) return `${value.name}: ${value.message}`;
  if (typeof value === 'string') return value;
  try {
    return JSON.stringify(value) ?? String(value);
  } catch {
    return String(value);
  }
}
