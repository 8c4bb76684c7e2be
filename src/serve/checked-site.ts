/** A site that was checked, as it is served: what the servers answer from, and what is known of its pages. */
import { publishedAt } from '../core/resolve/published.ts';
import { INDEX, isIndexName, isPageName } from '../core/site/formats.ts';
import { folderOf } from '../core/site/inventory.ts';
import type { Checked, ProjectCheck } from '../disk/check.ts';
import { below, type DiskPath, pointedTo } from '../disk/disk-path.ts';
import { pageAbout } from './about.ts';
import { answerTo, asAddress, folderServed, isHidden, type Served } from './answer.ts';
import { helpPage } from './help.ts';
import { lackOf } from './lack.ts';
import type { Lack, PageAbout } from './messages.ts';
import type { SiteBehind } from './site-server.ts';

export class CheckedSite implements SiteBehind {
  change = 0;

  constructor(
    protected readonly check: ProjectCheck,
    /** What its last look came to; null before the first. */
    protected checked: Checked | null = null,
  ) {}

  get report(): Checked['site'] {
    return (this.checked as Checked).site;
  }

  get served(): Served {
    const { inventory, linksOut, settings } = this.check.opened;
    return { inventory, linksOut, folder: folderServed(publishedAt(settings['published-at'])) };
  }

  get projectRoot(): DiskPath {
    return pointedTo(this.check.folder);
  }

  get root(): DiskPath {
    return below(this.projectRoot, this.check.opened.prefix);
  }

  /** Pages are sent as they are. */
  get script(): string | null {
    return null;
  }

  get notFound(): string | null {
    return this.check.opened.inventory.files.has(NOT_FOUND) ? NOT_FOUND : null;
  }

  async settled(): Promise<void> {}

  async refresh(): Promise<void> {}

  helpFor(path: string | null, target: string): string {
    return helpPage(this.#lackOf(path, target));
  }

  /** What is known of an address on the site's host where nothing is served; null where something is. */
  lackAt(target: string): Lack | null {
    const answer = answerTo(target, this.served);
    return answer.is === 'missing' ? this.#lackOf(answer.path, target) : null;
  }

  #lackOf(path: string | null, target: string): Lack {
    const { inventory, folder } = this.served;
    return lackOf({ path, target, folder, inventory, site: this.checked?.site ?? null });
  }

  /** The pages that are served, by their site paths. */
  get pages(): readonly string[] {
    return [...this.check.opened.inventory.files].filter((path) => isPageName(path) && !isHidden(path));
  }

  /** The pages that load a file by any chain, on the site's host. */
  pagesThatLoad(file: string): readonly string[] {
    const { folder } = this.served;
    return this.check.pagesThatLoad(file).map((path) => folder + asAddress(path));
  }

  /** What is known of a page before a browser opens it; null where there is no such page. */
  about(path: string): PageAbout | null {
    const { inventory, folder } = this.served;
    if (!inventory.files.has(path) || !isPageName(path)) return null;
    const { findings } = this.report;
    return pageAbout(this.check.loads(path), findings, folder, (file) => this.check.pagesThatLoad(file));
  }

  /** A page as visitors come to it, on the site's host: a folder's page by the folder. */
  addressOf(path: string): string {
    const way = isIndexName(path) && path.endsWith(INDEX) ? folderOf(path) : path;
    return this.served.folder + asAddress(way);
  }
}

/** What hosts answer with where nothing is. */
const NOT_FOUND = '404.html';
