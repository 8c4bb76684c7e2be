/** A site under preview: served, watched, checked again as it changes, and told of to its pages and its deck. */
import { randomBytes } from 'node:crypto';
import { basename } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { CravelError } from '../core/errors.ts';
import { mediaType } from '../core/site/formats.ts';
import { type Progress, ProjectCheck } from '../disk/check.ts';
import { asWritten } from '../disk/disk-path.ts';
import { isTakenBack, pastChanges } from '../disk/past-changes.ts';
import { type Watcher, watchFolder } from '../disk/watch.ts';
import { countsByPage } from './about.ts';
import { isHidden } from './answer.ts';
import { CheckedSite } from './checked-site.ts';
import { DeckServer } from './deck-server.ts';
import { LOOPBACK } from './loopback.ts';
import type { PageLine, SiteNews } from './messages.ts';
import { browserFile } from './page-files.ts';
import { SiteServer, type SiteServerOptions } from './site-server.ts';

/** Milliseconds between what changed and a new look: browsers get what changed first. */
const AFTER_BROWSERS = 150;
/** Milliseconds that a change of the deck's own is waited for, and between two looks for it. */
const PATIENCE = 2000;
const PAUSE = 20;

export interface PreviewOptions {
  /** Of the deck; the site has the next one. 0 for free ones. */
  readonly port: number;
  /** For other machines in the network, beside loopback. */
  readonly network?: Pick<SiteServerOptions, 'host' | 'names' | 'guard'>;
}

export class Preview extends CheckedSite {
  readonly #site: SiteServer;
  readonly #deck: DeckServer;
  readonly #network: SiteServer | null;
  #watcher: Watcher | null = null;
  #trouble: string | null = null;
  #looks = 0;
  /** Changes that no look has taken in. */
  #waiting = new Set<string>();
  #look: Promise<void> | null = null;

  constructor(
    folder: string,
    readonly options: PreviewOptions,
  ) {
    super(new ProjectCheck(folder));
    const run = randomBytes(8).toString('hex');
    const { port, network } = options;
    this.#site = new SiteServer(this, { port: port === 0 ? 0 : port + 1, run });
    this.#network = network === undefined ? null : new SiteServer(this, { port: 0, run, ...network });
    this.#deck = new DeckServer(this, port);
  }

  /** Looks at the site, and serves it from then on. Throws a `CravelError` where it cannot. */
  async start(progress: Progress = () => {}): Promise<void> {
    // The watcher comes first, so that nothing is missed.
    this.#watcher = await watchFolder(asWritten(this.check.folder));
    this.checked = await this.check.look(progress);
    await this.#site.start();
    await this.#network?.start();
    await this.#deck.start();
    this.check.prepare();
  }

  /** Goes on until `end` is called. */
  async run(): Promise<void> {
    const watcher = this.#watcher as Watcher;
    for (let changed = await watcher.next(); changed !== null; changed = await watcher.next())
      this.#note(changed);
  }

  async end(): Promise<void> {
    this.#site.end();
    this.#network?.end();
    this.#deck.end();
    await this.#watcher?.end();
    await this.#look?.catch(() => {});
  }

  /** Where the site is served: scheme, host and port. */
  get siteOrigin(): string {
    return `http://${LOOPBACK}:${this.#site.port}`;
  }

  get siteAddress(): string {
    return this.siteOrigin + this.served.folder;
  }

  get deckAddress(): string {
    return this.#deck.address;
  }

  get networkPort(): number | null {
    return this.#network?.port ?? null;
  }

  override get script(): string {
    return browserFile('added.js').replace('CRAVEL_DECK', this.#deck.address.replace(/\/$/, ''));
  }

  override async settled(): Promise<void> {
    while (this.#waiting.size > 0 || this.#look !== null) await this.#lookNow();
  }

  /** Waits until a change that was just made is taken in; what stays as it was is not waited for long. */
  override async refresh(): Promise<void> {
    const looks = this.#looks;
    for (let waited = 0; waited < PATIENCE && looks === this.#looks; waited += PAUSE) await setTimeout(PAUSE);
    await this.settled();
  }

  /** What the deck shows of the whole site. */
  news(): SiteNews {
    const { findings, counts, unread } = this.report;
    const { pages } = this;
    const { byPage, elsewhere } = countsByPage(findings, pages, (file) => this.check.pagesThatLoad(file));
    return {
      is: 'site',
      name: basename(this.projectRoot),
      pages: pages.map((path): PageLine => ({ path, address: this.addressOf(path), counts: byPage(path) })),
      counts,
      elsewhere,
      unread: unread.length,
      last: this.#lastChange(),
      trouble: this.#trouble,
      look: this.#looks,
    };
  }

  #lastChange(): string | null {
    const root = this.projectRoot;
    const last = pastChanges(root).find((past) => !isTakenBack(root, past));
    return last?.title ?? null;
  }

  #note(changed: ReadonlySet<string>): void {
    for (const path of changed) this.#waiting.add(path);
    const own = this.#sitePathsOf(changed).filter((path) => !isHidden(path));
    const paths = own.map((path) => this.#pathOnHost(path));
    this.change++;
    this.#tellPages({ is: 'changed', change: this.change, paths });
    void setTimeout(AFTER_BROWSERS).then(() => this.settled());
  }

  #lookNow(): Promise<void> {
    this.#look ??= this.#lookAgain().finally(() => {
      this.#look = null;
    });
    return this.#look;
  }

  async #lookAgain(): Promise<void> {
    const changed = this.#waiting;
    this.#waiting = new Set();
    try {
      const t0 = performance.now();
      this.checked = await this.check.lookAgain(changed);
      console.error('look', performance.now() - t0, this.check.read);
      this.#trouble = null;
      const t1 = performance.now();
      this.#tellOfCode(changed);
      console.error('code', performance.now() - t1);
      const t2 = performance.now();
      JSON.stringify(this.news());
      console.error('news', performance.now() - t2);
    } catch (error) {
      if (!(error instanceof CravelError)) throw error;
      this.#trouble = error.message;
    }
    this.#looks++;
    this.#deck.tell();
  }

  /** A worker, or what it imports, is loaded by no page that would know. */
  #tellOfCode(changed: ReadonlySet<string>): void {
    const code = this.#sitePathsOf(changed).filter((path) => /javascript|json/.test(mediaType(path)));
    const pages = new Set(code.flatMap((path) => this.check.pagesThatLoad(path)));
    if (pages.size === 0) return;
    this.#tellPages({ is: 'reload', pages: Array.from(pages, (path) => this.#pathOnHost(path)) });
  }

  /** Paths from the project's folder, as far as they lie in the site. */
  #sitePathsOf(paths: ReadonlySet<string>): string[] {
    const { prefix } = this.check.opened;
    return [...paths].flatMap((path) => (path.startsWith(prefix) ? path.slice(prefix.length) : []));
  }

  /** Without escapes, as pages compare it. */
  #pathOnHost(path: string): string {
    return decodeURIComponent(this.served.folder) + path;
  }

  #tellPages(news: Parameters<SiteServer['tell']>[0]): void {
    this.#site.tell(news);
    this.#network?.tell(news);
  }
}
