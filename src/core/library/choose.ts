/** Chooses what of a downloaded library pages load: one build of each thing that runs, and no more than is needed. */
import { pushTo } from '../group-by.ts';
import { onceFor } from '../once-for.ts';
import { isForServers, type ScriptNames } from '../order/made-names.ts';
import { inOrderOfNeeds, type Scripts } from '../order/needs-first.ts';
import { extensionOf, folderOf, nameOf } from '../site/inventory.ts';
import { type BuildFacts, type Chosen, chooseBuilds, thingOf } from './builds.ts';
import type { LibraryFiles } from './files.ts';
import { buildOf } from './names.ts';
import { FOR_SERVERS, runnableOf, runsInPages } from './runnable.ts';
import { areLooksOfOne, isPartOf } from './sheets.ts';
import { inOrder, isCalled, NO_BUILD, stylesBeside, whereBuildsLie } from './where-builds-lie.ts';

export interface ChoiceOptions {
  /** What the library is called. */
  readonly name: string;
  /** Files that somebody chose: the number of the wish that each answers to, null for others. Null: nobody chose. */
  readonly wish: ((path: string) => number | null) | null;
  /** Files that an address stands for, which they are to take the place of. */
  readonly wanted: readonly string[];
  /** Names that the project's other libraries make. */
  readonly provided: readonly string[];
}

export interface Choice {
  /** In the order in which pages load them. */
  readonly styles: readonly Chosen[];
  readonly scripts: readonly Chosen[];
  /** Why each of them, by its path. */
  readonly because: ReadonlyMap<string, string>;
  /** Why others are left. */
  readonly left: ReadonlyMap<string, string>;
}

/** What is known of the scripts of a library. */
export interface LibraryScripts extends Scripts {
  isDense(path: string): boolean;
}

const isStyle = (path: string) => extensionOf(path) === 'css';
const isScript = (path: string) => /^[cm]?js$/.test(extensionOf(path));

export function chooseFiles(files: LibraryFiles, scripts: LibraryScripts, options: ChoiceOptions): Choice {
  return new Chooser(files, scripts, options).choose();
}

class Chooser {
  readonly #because = new Map<string, string>();
  readonly #left = new Map<string, string>();
  /** Files that the package names, those first that an address stands for. */
  readonly #entries: readonly string[];
  readonly #sound: readonly string[];

  constructor(
    readonly files: LibraryFiles,
    readonly scripts: LibraryScripts,
    readonly options: ChoiceOptions,
  ) {
    this.#entries = [...options.wanted, ...files.entries()];
    this.#sound = files.paths().filter((path) => !NO_BUILD.test(path));
  }

  choose(): Choice {
    const { wish } = this.options;
    if (wish !== null) return this.#wished(wish);
    const scripts = this.#chooseScripts();
    const styles = this.#chooseStyles(scripts);
    return { styles, scripts, because: this.#because, left: this.#left };
  }

  /** What somebody chose, as it was asked for. */
  #wished(wish: (path: string) => number | null): Choice {
    const paths = this.files
      .paths()
      .filter((path) => (isStyle(path) || isScript(path)) && wish(path) !== null);
    const chosen = this.#builds(paths, null)
      .flatMap((one) => [one, ...this.#alsoWished(one, wish)])
      .sort((one, other) => (wish(one.readable) as number) - (wish(other.readable) as number));
    for (const { readable } of chosen)
      if (isScript(readable) && isForServers(this.scripts.namesOf(readable)))
        this.#because.set(readable, FOR_SERVERS);
    return {
      styles: chosen.filter(({ readable }) => isStyle(readable)),
      scripts: chosen.filter(({ readable }) => isScript(readable)),
      because: this.#because,
      left: this.#left,
    };
  }

  /** Builds of one thing that were asked for one by one are all wished. */
  #alsoWished(one: Chosen, wish: (path: string) => number | null): Chosen[] {
    return one.among
      .filter((path) => ![one.readable, one.minified].includes(path) && wish(path) !== wish(one.readable))
      .map((path) => ({ readable: path, minified: null, build: buildOf(nameOf(path)), among: [path] }));
  }

  #chooseScripts(): Chosen[] {
    const entry = this.#entries.find((path) => isScript(path) && runsInPages(this.scripts, path)) ?? null;
    const all = this.#sound.filter(isScript);
    const near = entry === null ? whereBuildsLie(all) : this.#near(all, entry);
    const { paths, left } = runnableOf(near, this.files, this.scripts);
    for (const [path, why] of left) this.#left.set(path, why);
    const chosen = this.#builds(paths, entry);
    const mains = this.#mainsOf(chosen, entry);
    if (mains.length === 0)
      mains.push(...chosen.filter(({ build }) => isCalled(build.stem, this.options.name)));
    if (mains.length === 0) return this.#inOrder(this.#withoutTwins(this.#withoutPieces(chosen)));
    for (const main of mains) this.#say(main, entry);
    const needed = new Set(mains.map((main) => this.#bundleOf(main, chosen) ?? main));
    for (const one of needed) for (const other of this.#makersFor(one, chosen)) needed.add(other);
    for (const one of chosen)
      if (!needed.has(one) && !this.#left.has(one.readable))
        this.#leave(one, entry === null ? `not called ${this.options.name}` : this.#unnamed);
    return this.#inOrder([...needed]);
  }

  /** What lies beside a file, its other builds and what addresses stand for. */
  #near(all: readonly string[], entry: string): string[] {
    const { wanted } = this.options;
    return all.filter(
      (path) =>
        wanted.includes(path) || folderOf(path) === folderOf(entry) || thingOf(path) === thingOf(entry),
    );
  }

  #builds(paths: readonly string[], named: string | null): Chosen[] {
    const facts: BuildFacts = {
      named,
      isFuller: (fuller, path) => this.#isFuller(fuller, path),
      isDense: (path) => this.scripts.isDense(path),
    };
    const chosen = chooseBuilds(paths, facts);
    for (const { readable, minified, among } of chosen)
      for (const path of among)
        if (path !== readable && path !== minified && !this.#left.has(path))
          this.#left.set(path, 'another build');
    return chosen;
  }

  /** See {@link BuildFacts.isFuller}: a dependency that is there is rather loaded by itself. */
  #isFuller(fuller: string, path: string): boolean {
    if (fuller === path || !isScript(path) || !FULL.test(buildOf(nameOf(fuller)).variant ?? '')) return false;
    // The page that is to load it has what it looks for.
    if (this.options.wanted.includes(path)) return false;
    const brought = this.#lackedBy(path, this.scripts.namesOf(fuller));
    if (brought.length === 0) return false;
    const names = brought.slice(0, 3).join(', ');
    this.#left.set(path, `it lacks ${names}, which ${nameOf(fuller)} brings`);
    this.#because.set(fuller, `brings ${names}`);
    return true;
  }

  /** Names that a script looks for, that no other library makes, and that another build does without. */
  #lackedBy(path: string, other: ScriptNames): string[] {
    const { needs, asks } = this.scripts.namesOf(path);
    const known = new Set([...other.needs, ...other.asks, ...this.options.provided]);
    return [...needs, ...asks].filter((name) => !known.has(name));
  }

  /** Scripts that make what one needs, and what no other library makes. */
  #makersFor({ readable }: Chosen, chosen: readonly Chosen[]): Chosen[] {
    const makers = this.#makersOf(readable, chosen);
    for (const maker of makers) this.#because.set(maker.readable, `${nameOf(readable)} needs it`);
    return makers;
  }

  /** The scripts that make each name. */
  readonly #makersIn = onceFor((chosen: readonly Chosen[]): ReadonlyMap<string, readonly Chosen[]> => {
    const makers = new Map<string, Chosen[]>();
    for (const one of chosen)
      for (const name of this.scripts.namesOf(one.readable).makes) pushTo(makers, name, one);
    return makers;
  });

  #makersOf(path: string, chosen: readonly Chosen[]): Chosen[] {
    const needs = this.scripts.namesOf(path).needs.filter((name) => !this.options.provided.includes(name));
    const makers = this.#makersIn(chosen);
    return [...new Set(needs.flatMap((name) => makers.get(name) ?? []))].filter(
      ({ readable }) => readable !== path,
    );
  }

  /** The script that holds all of another one, and what that needs besides; null where there is none. */
  #bundleOf(main: Chosen, chosen: readonly Chosen[]): Chosen | null {
    if (this.#isWanted(main)) return null;
    const text = this.scripts.textOf(main.readable) ?? '';
    const piece = text.slice(text.length >> 1, (text.length >> 1) + LENGTH_OF_PIECE);
    const [bundle] = this.#makersOf(main.readable, chosen).filter(({ readable }) =>
      this.scripts.textOf(readable)?.includes(piece),
    );
    if (bundle === undefined || piece.length < LENGTH_OF_PIECE) return null;
    const brought = this.scripts.namesOf(main.readable).needs.join(', ');
    this.#because.set(bundle.readable, `brings ${brought}`);
    this.#leave(main, `it lacks ${brought}, which ${nameOf(bundle.readable)} brings`);
    return bundle;
  }

  /** A module that others are to import does nothing by itself: of several, none is loaded. */
  #withoutPieces(chosen: readonly Chosen[]): readonly Chosen[] {
    const isModule = ({ readable }: Chosen) => this.scripts.namesOf(readable).runsAs === 'module';
    if (chosen.length < 2 || !chosen.every(isModule)) return chosen;
    for (const one of chosen) this.#leave(one, A_PIECE);
    return [];
  }

  /** Of scripts that make the same names, the one that is called as the library, else the largest. */
  #withoutTwins(chosen: readonly Chosen[]): Chosen[] {
    const size = ({ readable }: Chosen) => this.files.read(readable).length;
    const kept = new Set<Chosen>();
    const makers = new Map<string, Chosen[]>();
    for (const one of chosen.toSorted((a, b) => size(b) - size(a))) {
      const { makes, needs } = this.scripts.namesOf(one.readable);
      const twin = makers.get(makes[0] ?? '')?.find(({ readable }) => {
        const others = this.scripts.namesOf(readable).makes;
        return makes.every((name) => others.includes(name) && !needs.includes(name));
      });
      if (twin === undefined) {
        kept.add(one);
        for (const name of makes) pushTo(makers, name, one);
      } else this.#leave(one, `it makes what ${nameOf(twin.readable)} makes`);
    }
    return chosen.filter((one) => kept.has(one));
  }

  #inOrder(chosen: readonly Chosen[]): Chosen[] {
    const byPath = new Map(chosen.map((one) => [one.readable, one]));
    const paths = inOrder(this.files, chosen, this.options.name).map(({ readable }) => readable);
    return inOrderOfNeeds(paths, this.scripts).map((path) => byPath.get(path) as Chosen);
  }

  #chooseStyles(scripts: readonly Chosen[]): Chosen[] {
    const all = this.#sound.filter(isStyle);
    const entry = this.#entries.find(isStyle) ?? null;
    const near = entry === null ? stylesBeside(all, scripts) : this.#near(all, entry);
    for (const path of near) if (FOR_PRINT.test(path)) this.#left.set(path, 'for print alone');
    const named = entry ?? near.find((path) => scripts.some((one) => baseOf(one.readable) === baseOf(path)));
    const shown = near.filter((path) => !FOR_PRINT.test(path));
    const chosen = inOrder(this.files, this.#builds(shown, named ?? null), this.options.name);
    const mains = this.#mainsOf(chosen, entry);
    if (mains.length > 0) {
      for (const main of mains) this.#say(main, entry);
      for (const one of chosen.filter((other) => !mains.includes(other))) {
        const whole = mains.find((main) => this.#isIn(one, main));
        this.#leave(one, whole === undefined ? this.#unnamed : `a part of ${nameOf(whole.readable)}`);
      }
      return mains;
    }
    const kept = new Set<Chosen>();
    const largest: Chosen[] = [];
    const stems = scripts.map(({ build }) => build.stem);
    for (const one of chosen.toSorted((a, b) => this.#weight(b, stems) - this.#weight(a, stems))) {
      const whole = largest.find((other) => this.#isIn(one, other));
      const look = largest.find(({ readable }) =>
        areLooksOfOne(this.files.read(one.readable), this.files.read(readable)),
      );
      if (whole !== undefined) this.#leave(one, `a part of ${nameOf(whole.readable)}`);
      else if (look !== undefined) this.#leave(one, `another look than ${nameOf(look.readable)}`);
      else {
        kept.add(one);
        if (largest.length < MOST_COMPARED) largest.push(one);
      }
    }
    return chosen.filter((one) => kept.has(one));
  }

  /** What is called as the library or its scripts weighs most, then what is called the default; else the larger one. */
  #weight({ readable, build }: Chosen, stems: readonly string[]): number {
    if ([this.options.name, ...stems].some((name) => isCalled(build.stem, name)))
      return Number.POSITIVE_INFINITY;
    return build.stem.toLowerCase() === 'default' ? Number.MAX_VALUE : this.files.read(readable).length;
  }

  /** What addresses stand for; without such, what the package names. */
  #mainsOf(chosen: readonly Chosen[], entry: string | null): Chosen[] {
    const { wanted } = this.options;
    const asked = chosen.filter(({ among }) => among.some((path) => wanted.includes(path)));
    return asked.length > 0 ? asked : chosen.filter(({ among }) => entry !== null && among.includes(entry));
  }

  get #unnamed(): string {
    return this.options.wanted.length > 0
      ? 'no address stands for it'
      : 'not what its package names for pages';
  }

  #isIn({ readable }: Chosen, whole: Chosen): boolean {
    return isPartOf(this.files.read(readable), this.files.read(whole.readable));
  }

  #isWanted({ readable, minified }: Chosen): boolean {
    return [readable, minified].some((path) => path !== null && this.options.wanted.includes(path));
  }

  #say(one: Chosen, entry: string | null): void {
    const { readable } = one;
    if (this.#because.has(readable)) return;
    this.#because.set(
      readable,
      this.#isWanted(one)
        ? 'an address stands for it'
        : entry === null
          ? "has the library's name"
          : 'its package names it',
    );
  }

  #leave({ readable, minified }: Chosen, why: string): void {
    for (const path of [readable, minified]) if (path !== null) this.#left.set(path, why);
  }
}

/** Sheets that would spoil a screen. */
const FOR_PRINT = /[-._]print(?:[-._]min)?\.css$/i;
const baseOf = (path: string) => nameOf(path).replace(/\.[^.]*$/, '');

const A_PIECE = 'one of many modules, none of them named for pages';
/** Stylesheets that all others are held to. */
const MOST_COMPARED = 24;
/** Characters that no two scripts share by chance. */
const LENGTH_OF_PIECE = 300;
/** Builds that bring what others are to be given. */
const FULL = /^(?:bundled?|pkgd|all|full)$/;
