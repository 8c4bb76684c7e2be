/** Checks a real folder: lists it, reads what the check wants, and hands back the report. */

import { type Check, startCheck } from '../core/check/check.ts';
import type { SiteMap } from '../core/check/site-map.ts';
import type { Who } from '../core/check/who.ts';
import { fail } from '../core/errors.ts';
import type { Answer } from '../core/judge/rule.ts';
import { generatorSource } from '../core/judge/rules/generator-source.ts';
import { HEAD_SIZE } from '../core/read/content.ts';
import { isPage } from '../core/read/read.ts';
import type { Finding, Report, SiteReport } from '../core/report.ts';
import { publishedAt } from '../core/resolve/published.ts';
import { type Sifted, sift } from '../core/settings/accept.ts';
import type { Settings } from '../core/settings/settings.ts';
import { INDEX } from '../core/site/formats.ts';
import { type Inventory, makeInventory } from '../core/site/inventory.ts';
import { nearestNames } from '../core/site/near-names.ts';
import { digestOf, digestOfFile } from './digest.ts';
import { digestsKept } from './digests-kept.ts';
import { asWritten, below, type DiskPath } from './disk-path.ts';
import { readHead } from './head.ts';
import { openProject, type Project, projectOf } from './project.ts';
import { FileReader } from './reader.ts';
import { reasonOf } from './reason.ts';
import { statOrNull } from './stat.ts';

/** Told how far the reading is; awaited, so that it can let timers run. */
export type Progress = (done: number, total: number) => Promise<void> | void;

/** What a check found, and what the project's settings say of it. */
export interface Checked extends Pick<Sifted, 'idle'> {
  readonly site: SiteReport;
  /** Grades and rules that make the check fail; undefined where the settings do not say. */
  readonly failOn: readonly string[] | undefined;
  /** The folder that gets published. */
  readonly root: DiskPath;
  /** Folders of the site that are projects of their own, by their site paths. */
  readonly borders: ReadonlySet<string>;
  /** Links out of the site that are followed, each with where it leads. */
  readonly linksOut: ReadonlyMap<string, string>;
  /** Libraries that the settings name and that are not there, or not whole, each with what is missing. */
  readonly stale: ReadonlyMap<string, string>;
  /** Addresses that other hosts were to be asked for, and could or would not say. */
  readonly unasked: readonly Unasked[];
}

export interface Unasked extends Pick<Answer, 'isOurs'> {
  readonly address: string;
  readonly why: string;
}

export interface ProjectCheckOptions {
  /** Other hosts are asked for what the site refers to. */
  readonly online?: boolean;
  /** The folder that somebody works in, to whom names of files are relative; the project's own unless said. */
  readonly from?: DiskPath;
  /** The project, opened already: what was changed in its files is judged as it is going to be. */
  readonly project?: Project;
  /** Where the report goes: it is no part of what is checked. */
  readonly out?: string | undefined;
  /** Told how far the asking is. */
  readonly asking?: Progress;
  /** Folders of the site, by their site paths: what lies elsewhere is read, and not told. Empty for all. */
  readonly within?: readonly string[];
  /** Whether a finding is told. */
  readonly isWanted?: (finding: Finding) => boolean;
}

/**
 * The report alone, on the whole project that `folder` lies in where it has settings. Throws a `CravelError` where
 * `folder` is no folder, or holds no page.
 */
export async function checkFolder(folder: string, progress: Progress = () => {}): Promise<Report> {
  const { root, within } = await projectOf(folder);
  const { site } = await new ProjectCheck(root, { within }).look(progress);
  return { cravel: 2, sites: [site] };
}

/** A check of one project that can go on when files change. */
export class ProjectCheck {
  #project: Project | null = null;
  #check: Check | null = null;
  readonly #reader = new FileReader();
  /** Paths that changed since the last look that came to an end. */
  readonly #changed = new Set<string>();
  /** How many files the last look read. */
  read = 0;

  /** What other hosts answered, by address: each is asked once. */
  readonly #answers = new Map<string, Answer>();

  constructor(
    readonly folder: string,
    readonly options: ProjectCheckOptions = {},
  ) {}

  /** Checks the whole project. Throws a `CravelError` where there is no folder, or no page in it. */
  async look(progress: Progress = () => {}): Promise<Checked> {
    this.#check = null;
    const project = this.options.project ?? (await openProject(asWritten(this.folder), this.#opening));
    const { files, borders } = project.inventory;
    if (files.size === 0 && project.unread.length === 0 && borders.size === 0)
      throw fail('empty-folder', this.folder);
    for (const folder of this.options.within ?? [])
      if (![...project.inventory.files].some((path) => path.startsWith(folder)))
        throw fail('nothing-of-site', folder, this.folder);
    return this.#start(project, progress);
  }

  /**
   * Who refers to a file, or to what a folder holds, as somebody named it; after a look. Throws a `CravelError` where the
   * site has neither.
   */
  who(named: string): Who & { readonly path: string } {
    const { sitePath, inventory } = this.#project as Project;
    const path = sitePath(named);
    const folder = `${path.replace(/\/$/, '')}/`;
    const files = [...inventory.files];
    const isFolder = !inventory.files.has(path) && inventory.folders.has(folder);
    if (!isFolder && !inventory.files.has(path)) throw fail('no-file', named, nearestNames(path, files));
    const asked = isFolder ? files.filter((file) => file.startsWith(folder)) : [path];
    const who = (this.#check as Check).who(new Set(asked), isFolder ? folder : null, (file) =>
      this.#bytesOf(file),
    );
    return { ...who, path: isFolder ? folder : path };
  }

  /** The site path of a page as somebody named it, be it by its folder; after a look. Throws a `CravelError` where there is none. */
  pageNamed(named: string): string {
    const { sitePath, inventory } = this.#project as Project;
    const given = sitePath(named);
    const path =
      inventory.folders.has(`${given.replace(/\/$/, '')}/`) || given === ''
        ? `${given.replace(/\/?$/, '/')}${INDEX}`.replace(/^\//, '')
        : given;
    const files = [...inventory.files].filter(isPage);
    if (!files.includes(path)) throw fail('no-file', named, nearestNames(path, files));
    return path;
  }

  /** What a page of the site loads; after a look. */
  loads(page: string): ReturnType<Check['loads']> {
    return (this.#check as Check).loads(page, {
      bytesOf: (file) => this.#bytesOf(file),
      sizeOf: (file) => statOrNull(below(this.#root, file))?.size ?? null,
    });
  }

  /** The pages that load a file by any chain, after a look. */
  pagesThatLoad(file: string): readonly string[] {
    return (this.#check as Check).pagesThatLoad(file);
  }

  /** Files, and folders of files whose names a script puts together, that something refers to; after a look. */
  usedFiles(): ReadonlySet<string> {
    return (this.#check as Check).usedFiles();
  }

  /** The site as a whole; `checked` is what the last look found. */
  siteMap({ site }: Pick<Checked, 'site'>): SiteMap {
    return (this.#check as Check).siteMap(site, (file) => statOrNull(below(this.#root, file))?.size ?? 0);
  }

  /** The project as the last look found it; after a look. */
  get opened(): Project {
    return this.#project as Project;
  }

  /** Makes ready for changes: worth it while nobody waits. */
  prepare(): void {
    this.#check?.prepare();
  }

  /** Checks what a change touches, and all where the settings changed. `changed` are paths from the project's folder. */
  async lookAgain(changed: ReadonlySet<string>): Promise<Checked> {
    for (const path of changed) this.#changed.add(path);
    const before = this.#project;
    const check = this.#check;
    if (before === null || check === null) return this.look();
    const project = await openProject(asWritten(this.folder), this.#opening);
    if (JSON.stringify(project.settings) !== JSON.stringify(before.settings)) return this.#start(project);
    this.#project = project;
    const sitePaths = new Set([...this.#changed].map((path) => project.sitePath(path)));
    check.renew(project.inventory, sitePaths, project.places);
    return this.#take(check, project);
  }

  /** Checks what changes to files of the opened project touch, by their site paths. */
  async lookAtChanges(changed: ReadonlySet<string>): Promise<Checked> {
    const project = this.#project as Project;
    const { inventory, site } = project;
    const paths = site.paths();
    const isSame = paths.length === inventory.files.size && paths.every((path) => inventory.files.has(path));
    const after = isSame ? inventory : makeInventory(paths, inventory);
    const own = { ...project, inventory: after };
    this.#project = own;
    (this.#check as Check).renew(after, changed, project.places);
    return this.#take(this.#check as Check, own);
  }

  async #start(project: Project, progress?: Progress): Promise<Checked> {
    const { inventory, settings, places } = project;
    this.#project = project;
    this.#check = startCheck(inventory, {
      entry: settings.entry,
      places,
      published: publishedAt(settings['published-at']),
      grades: settings.grades,
      headOf: (path) => {
        const written = this.#written(path);
        return written === undefined
          ? readHead(below(this.#root, path))
          : (written?.subarray(0, HEAD_SIZE) ?? null);
      },
      digestOf: (path, algorithm) => {
        const written = this.#written(path);
        if (written === undefined) return digestOfFile(below(this.#root, path), algorithm);
        return written && digestOf(written, algorithm);
      },
      digestBefore: digestsKept(project),
      isOnline: this.options.online ?? false,
      samples: await samplesFor(settings),
      libraries: settings.libraries,
    });
    return this.#take(this.#check, project, progress);
  }

  async #take(
    check: Check,
    { unread, inventory, settings, linksOut }: Project,
    progress: Progress = () => {},
  ): Promise<Checked> {
    for (const { file, why } of unread) check.skip(file, why);
    const { wanted } = check;
    const root = this.#root;
    this.read = 0;
    for (const path of wanted) {
      try {
        check.take(path, this.#written(path) ?? this.#reader.read(below(root, path)));
      } catch (error) {
        check.skip(path, reasonOf(error));
      }
      await progress(++this.read, wanted.length);
    }
    this.#changed.clear();
    const unasked = await this.#ask(check);
    let idle: Sifted['idle'] = [];
    const site = check.report(
      this.#shownRoot,
      (path) => this.#bytesOf(path),
      (findings) => {
        const sifted = sift(findings, settings.accept);
        idle = sifted.idle;
        return {
          findings: sifted.findings.filter((finding) => this.#isTold(finding)),
          accepted: sifted.accepted.filter(({ finding }) => this.#isTold(finding)),
        };
      },
    );
    const hasSources = site.findings.some(({ rule }) => rule === generatorSource.name);
    if (site.pages === 0 && !hasSources && unread.length === 0 && inventory.borders.size === 0) {
      const files = inventory.files.size;
      throw fail('no-pages', this.folder, files === 1 ? '1 file' : `${files} files`);
    }
    const told = { ...site, unread: site.unread.filter(({ file }) => this.#isWithin(file)) };
    return {
      site: told,
      idle,
      failOn: settings['fail-on'],
      root: this.#root,
      borders: inventory.borders,
      linksOut,
      stale: staleIn(settings, inventory),
      unasked,
    };
  }

  #isTold(finding: Finding): boolean {
    return (this.options.isWanted?.(finding) ?? true) && this.#isWithin(finding.file);
  }

  #isWithin(file: string): boolean {
    const { within = [] } = this.options;
    return within.length === 0 || within.some((folder) => file.startsWith(folder));
  }

  async #ask(check: Check): Promise<Unasked[]> {
    if (!this.options.online) return [];
    const questions = check.questions();
    const { askHosts } = await import('../web/ask.ts');
    const fresh = questions.filter(({ address }) => !this.#answers.has(address));
    const answers = await askHosts(fresh, this.options.asking ?? (() => {}));
    for (const [address, answer] of answers) this.#answers.set(address, answer);
    check.answer(this.#answers);
    return questions.flatMap(({ address }) => {
      const { unasked = null, isOurs = false } = this.#answers.get(address) ?? {};
      return unasked === null ? [] : [{ address, why: unasked, isOurs }];
    });
  }

  get #opening(): { apart: string | undefined; from?: DiskPath } {
    const { out, from } = this.options;
    return { apart: out, ...(from === undefined ? {} : { from }) };
  }

  get #root(): DiskPath {
    return below(asWritten(this.folder), this.#project?.prefix ?? '');
  }

  get #shownRoot(): string {
    return this.#project?.prefix ? this.#root.replace(/\/$/, '') : this.folder;
  }

  /** What is going to stand there; null for a file that goes, undefined for one that stays as it is. */
  #written(path: string): Uint8Array | null | undefined {
    const { project } = this.options;
    return project?.files.written(project.prefix + path);
  }

  /** Nothing where the file is gone by now. */
  #bytesOf(path: string): Uint8Array {
    try {
      return this.#written(path) ?? this.#reader.read(below(this.#root, path));
    } catch {
      return new Uint8Array();
    }
  }
}

function staleIn({ libraries }: Settings, { files, folders }: Inventory): Map<string, string> {
  const all = Object.entries(libraries).map(([name, { folder, styles, scripts }]): [string, string] => {
    const home = `${folder.replace(/\/+$/, '')}/`;
    const lacking = [...styles, ...scripts].find((path) => !files.has(home + path));
    if (folders.has(home) && lacking !== undefined) return [name, home + lacking];
    return [name, folders.has(home) ? '' : home];
  });
  return new Map(all.filter(([, lacking]) => lacking !== ''));
}

/** The texts of the starter that a project was laid out from; few projects need what they are found with. */
async function samplesFor(settings: Settings): Promise<readonly string[]> {
  if (settings.starter === undefined) return [];
  const { samplesOfProject } = await import('./samples.ts');
  return samplesOfProject(settings.starter, settings.blanks);
}
