/** What the scripts of a site make and need; each file is followed once for each goal, as long as it stays as it is. */

import { pushTo } from '../group-by.ts';
import { throwsInBrowsers } from '../order/made-names.ts';
import { buildPairs } from '../order/order.ts';
import { namesOf } from '../order/page-run.ts';
import { saidIn } from '../order/said-words.ts';
import { type Goal, scriptFacts } from '../order/script-facts.ts';
import { NOTHING_KNOWN, type ScriptFacts } from '../order/steps.ts';
import { textOfScript } from '../read/spot-of-code.ts';
import { extensionOf, nameOf } from '../site/inventory.ts';
import type { Ledger } from './ledger.ts';
import { codeOf, type ScriptTag } from './page-code.ts';
import type { Entry } from './run-list.ts';
import type { Share } from './share.ts';

/** A library as far as the settings say what it is. */
interface StatedLibrary {
  readonly folder: string;
  readonly scripts: readonly string[];
  readonly release: Readonly<Record<string, string>>;
  readonly provides: readonly string[];
  readonly needs: readonly string[];
}
export type StatedLibraries = Readonly<Record<string, StatedLibrary>>;

/** The scripts of a library and their minified builds, by their site paths. */
export function filesOf(libraries: StatedLibraries, name: string): string[] {
  const library = libraries[name];
  if (library === undefined) return [];
  const { folder, scripts, release } = library;
  return scripts.flatMap((script) =>
    [script, release[script]].flatMap((file) => (file === undefined ? [] : `${folder}/${file}`)),
  );
}

/** Readable and minified builds of libraries, each by the other one's site path. */
export function buildsOf(libraries: StatedLibraries): Map<string, string> {
  const pairs = buildPairs(libraries);
  return new Map([...pairs, ...pairs.map(([readable, small]) => [small, readable] as const)]);
}

type BytesOf = (path: string) => Uint8Array;

export class ScriptFiles {
  readonly #known = new Map<string, { readonly share: Share; readonly facts: ScriptFacts | null }>();
  readonly #mentions = new Map<string, boolean>();
  /** The strings of scripts, by what is known of them. */
  readonly #said = new WeakMap<ScriptFacts, string>();
  /** Names that the settings state, by the script that makes them. */
  readonly #stated = new Map<string, readonly string[]>();

  constructor(
    readonly ledger: Ledger,
    readonly libraries: StatedLibraries,
  ) {
    for (const [name, { provides }] of Object.entries(libraries))
      for (const file of filesOf(libraries, name)) this.#stated.set(file, provides);
  }

  encodingOf(path: string): string {
    return this.ledger.get(path)?.encoding ?? 'utf-8';
  }

  #textOf(path: string, bytesOf: BytesOf): string {
    return textOfScript(bytesOf(path), this.encodingOf(path));
  }

  /** Null where it does not parse. */
  factsOf(path: string, goal: Goal, bytesOf: BytesOf): ScriptFacts | null {
    const share = this.ledger.get(path);
    if (share === undefined) return this.#withStated(path, NOTHING_KNOWN);
    const key = `${goal} ${path}`;
    const known = this.#known.get(key);
    if (known?.share === share) return known.facts;
    this.#mentions.clear();
    const facts = scriptFacts(this.#textOf(path, bytesOf), goal);
    const stated = facts === null ? null : this.#withStated(path, facts);
    this.#known.set(key, { share, facts: stated });
    return stated;
  }

  /** What is started as a worker, or brought in as a module; null where it does not parse as that. */
  factsAs(goal: 'script' | 'module', path: string, bytesOf: BytesOf): ScriptFacts | null {
    return this.factsOf(path, goal === 'module' ? 'module' : 'worker', bytesOf);
  }

  /** What the settings say of a script is so. */
  #withStated(path: string, facts: ScriptFacts): ScriptFacts {
    const provides = this.#stated.get(path) ?? [];
    if (provides.length === 0) return facts;
    return { ...facts, anytime: new Set([...facts.anytime, ...provides]), isUnknown: false };
  }

  /** True for a library that has the name of a property that it sets, and was not followed through and through. */
  mayMake(entry: Pick<Entry, 'file' | 'facts'>, name: string, bytesOf: BytesOf): boolean {
    const { facts } = entry;
    return typeof facts !== 'string' && !facts.isWhole && this.setsProperty(entry, name, bytesOf);
  }

  /** True for a file that sets a property of that name, as far as its text says. */
  setsProperty({ file }: Pick<Entry, 'file'>, name: string, bytesOf: BytesOf): boolean {
    if (file === null) return false;
    const key = `${file} ${name}`;
    let may = this.#mentions.get(key);
    if (may === undefined) {
      const text = this.#textOf(file, bytesOf);
      const word = inPattern(name);
      may =
        text.includes(name) &&
        new RegExp(`\\.${word}\\s*=(?!=)|["']${word}["']|[,{]\\s*${word}\\s*[:(]|\\t${word}:`).test(text);
      this.#mentions.set(key, may);
    }
    return may;
  }

  /** True for a file whose text has that in it. */
  hasText(path: string, pattern: RegExp, bytesOf: BytesOf): boolean {
    return pattern.test(this.#textOf(path, bytesOf));
  }

  /** The strings of a script of `page`, but for those by which it looks for elements. */
  saidBy({ file, goal, tag, facts }: Entry, page: Share, bytesOf: BytesOf): string {
    if (typeof facts === 'string') return '';
    let said = this.#said.get(facts);
    if (said === undefined) {
      const text =
        file === null
          ? codeOf(bytesOf(page.file), page, page.scripts[tag] as ScriptTag)
          : this.#textOf(file, bytesOf);
      said = saidIn(text, goal, facts.isWhole);
      this.#said.set(facts, said);
    }
    return said;
  }

  /** The file of the site that a script of another host is, by its name. */
  sameAs(address: string): string | null {
    const name = nameOf(address.replace(/[?#].*/s, ''));
    for (const path of this.#stated.keys()) if (nameOf(path) === name) return path;
    return null;
  }

  /** The files of the site that make each of the names as classic scripts, the likeliest first. */
  makersOf(names: ReadonlySet<string>, bytesOf: BytesOf): Map<string, string[]> {
    const makers = new Map<string, string[]>();
    for (const [path, provides] of this.#stated) for (const name of provides) pushTo(makers, name, path);
    for (const path of this.ledger.shares.keys()) {
      if (extensionOf(path) !== 'js') continue;
      const text = this.#textOf(path, bytesOf);
      const mentioned = [...names].filter((name) => text.includes(name.slice(name.lastIndexOf('.') + 1)));
      if (mentioned.length === 0) continue;
      const facts = this.factsOf(path, 'script', bytesOf);
      if (facts === null || throwsInBrowsers(facts)) continue;
      const made = new Set([...namesOf(facts), ...facts.adds]);
      for (const name of mentioned)
        if (made.has(name) && !makers.get(name)?.includes(path)) pushTo(makers, name, path);
    }
    for (const paths of makers.values()) paths.sort(byLikelihood);
    return makers;
  }
}

/** A name of a script as a pattern has it: nothing else that it may hold means anything there. */
export function inPattern(name: string): string {
  return name.replaceAll('$', '\\$');
}

/** Readable builds first, then what lies higher up. */
function byLikelihood(one: string, other: string): number {
  const weightOf = (path: string) => path.split('/').length * 2 + Number(/[-.]min\.js$/.test(path));
  return weightOf(one) - weightOf(other) || one.length - other.length || (one < other ? -1 : 1);
}
