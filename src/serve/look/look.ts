/** Looks at pages in a real browser: what did not load or did not take effect, held against what the check says. */
import { beforeItsElement } from '../../core/judge/rules/before-its-element.ts';
import { beforeItsLibrary } from '../../core/judge/rules/before-its-library.ts';
import { callsNothing } from '../../core/judge/rules/calls-nothing.ts';
import { doesNotParse } from '../../core/judge/rules/does-not-parse.ts';
import { elementLeftOut } from '../../core/judge/rules/element-left-out.ts';
import { libraryLeftOut } from '../../core/judge/rules/library-left-out.ts';
import { nobodyMakes } from '../../core/judge/rules/nobody-makes.ts';
import type { PageAbout, Proof } from '../messages.ts';
import type { Opened } from './open-page.ts';

export type Trouble = 'not there' | 'blocked' | 'threw' | 'no image' | 'no font' | 'no effect' | 'not used';

/** One thing that failed or took no effect on one page. */
export interface Look {
  readonly trouble: Trouble;
  /** The site path, or the address where it is none of the site's. */
  readonly file: string;
  readonly line: number | null;
  readonly text: string;
  /** The rule by which the check tells of it; null where it does not. */
  readonly rule: string | null;
}

export interface LookedPage {
  readonly page: string;
  /** Why it could not be looked at; null where it could. Nothing else is known of it then. */
  readonly unseen: string | null;
  readonly looks: readonly Look[];
  /** Stylesheets and fonts without effect here, which may have one on other pages. */
  readonly idle: readonly Look[];
  /** All that it has, by {@link keyOf}. */
  readonly has: readonly string[];
  /** What the check says does not load, and the browser got or had no need of. */
  readonly checkAlone: readonly {
    readonly file: string;
    readonly line: number;
    readonly written: string;
    readonly rule: string;
  }[];
  readonly edges: readonly { readonly width: number; readonly element: string; readonly by: number }[];
  readonly warnings: readonly string[];
  /** Addresses of other hosts that were not asked for. */
  readonly elsewhere: readonly string[];
}

/** Where things are served. */
export interface Host {
  /** Scheme, host and port. */
  readonly origin: string;
  /** The folder of the site there. */
  readonly folder: string;
}

export function judgeOpened(page: string, opened: Opened | string, about: PageAbout, host: Host): LookedPage {
  if (typeof opened === 'string')
    return {
      page,
      unseen: opened,
      looks: [],
      idle: [],
      has: [],
      checkAlone: [],
      edges: [],
      warnings: [],
      elsewhere: [],
    };
  const { proof, failed, said, edges, elsewhere } = opened;
  const told = new Told(about, host);
  const looks: Look[] = [];
  const seen = new Set<string>();
  const inWords = [...proof.said, ...said].filter(({ kind }) => kind === 'blocked');
  for (const { address, why, isBlocked } of failed) {
    // What a policy of the page keeps out is told by the page, and other blocks by the browser's own sentence.
    const isSaid = why === 'csp' || inWords.some(({ text }) => text.includes(address));
    if (seen.has(address) || (isBlocked && isSaid)) continue;
    seen.add(address);
    looks.push(told.look(isBlocked ? 'blocked' : 'not there', address, null, why));
  }
  for (const { kind, text, address, line } of [...proof.said, ...said]) {
    if (kind === 'threw') looks.push(told.look('threw', address ?? host.origin + proof.path, line, text));
    if (kind === 'blocked') looks.push(told.look('blocked', address ?? host.origin + proof.path, line, text));
  }
  for (const { address, isThere } of proof.images)
    if (!isThere && !seen.has(address) && !elsewhere.includes(address))
      looks.push(told.look('no image', address, null, 'what came is no image'));
  for (const { family, status } of proof.fonts)
    if (status === 'error')
      looks.push(told.look('no font', family, null, 'it did not arrive, or is no font'));
  const effects = [...effectsIn(proof, told)];
  return {
    page,
    unseen: null,
    looks: withoutSame(looks),
    idle: effects.filter(({ isIdle }) => isIdle).map(({ look }) => look),
    has: effects.map(({ look }) => keyOf(look)),
    checkAlone: checkAlone(about, opened, told),
    edges: edges.flatMap(({ width, sticksOut }) =>
      sticksOut.map(({ element, by }) => ({ width, element, by })),
    ),
    warnings: [...proof.said, ...said]
      .filter(({ kind }) => kind === 'warning' || kind === 'error')
      .map(({ text }) => text),
    elsewhere,
  };
}

/** A stylesheet or a font of a page, and what is said of it where it takes no effect there. */
function* effectsIn(
  { styles, fonts }: Proof,
  told: Told,
): Iterable<{ readonly look: Look; readonly isIdle: boolean }> {
  for (const { address, rules, matching, isIdle } of styles) {
    // What waits for other media, or is kept from the page, cannot be told.
    if (address === null || rules === null || rules === 0) continue;
    const text = `none of its ${rules === 1 ? 'rules matches' : `${rules} rules match`} anything`;
    yield { look: told.look('no effect', address, null, text), isIdle: matching === 0 && !isIdle };
  }
  for (const { family, style, status } of fonts) {
    const name = [family, style].filter((word) => word !== '').join(' ');
    yield {
      look: told.look('not used', name, null, 'declared, and nothing is set in it'),
      isIdle: status === 'unloaded',
    };
  }
}

const keyOf = ({ trouble, file }: Look) => `${trouble} ${file}`;

/** One file that fails in one way is told once. */
function withoutSame(looks: readonly Look[]): Look[] {
  const one = (look: Look) =>
    JSON.stringify([keyOf(look), look.line, look.trouble === 'threw' ? look.text : '']);
  return [...new Map(looks.map((look) => [one(look), look])).values()];
}

/** Rules about what makes a script throw. */
const THROWING: ReadonlySet<string> = new Set(
  [
    beforeItsElement,
    beforeItsLibrary,
    callsNothing,
    doesNotParse,
    elementLeftOut,
    libraryLeftOut,
    nobodyMakes,
  ].map(({ name }) => name),
);

/** Ways in which a file is asked for whatever the browser is. */
const SURE = /^(?:blocks parsing|blocks rendering|deferred|module|async|with the page)$/;

function checkAlone(
  { files, findings }: PageAbout,
  { failed }: Opened,
  told: Told,
): LookedPage['checkAlone'] {
  const lost = new Set(failed.map(({ address }) => withoutQuery(address)));
  return files.flatMap((one) => {
    if (one.found !== false || !SURE.test(one.way)) return [];
    if (lost.has(told.addressOf(one))) return [];
    const finding = findings.find(({ grade, written }) => grade === 'broken' && written === one.written);
    if (finding === undefined) return [];
    const { file, line, written, rule } = finding;
    return [{ file, line, written, rule }];
  });
}

/** What the check tells of one page, by what a browser would ask for. */
class Told {
  readonly #rules = new Map<string, string>();

  constructor(
    readonly about: PageAbout,
    readonly host: Host,
  ) {
    const broken = about.findings.filter(({ grade }) => grade === 'broken' || grade === 'fragile');
    for (const { file, written, rule } of broken) {
      const from = host.origin + host.folder + file;
      // What a script asks for starts from the page that runs it.
      for (const base of [from, host.origin + host.folder + about.path]) {
        const address = resolved(written, base);
        if (address !== null) this.#rules.set(address, rule);
      }
    }
  }

  look(trouble: Trouble, address: string, line: number | null, text: string): Look {
    const file = this.#pathOf(address);
    const rule =
      trouble === 'threw' ? this.#ruleOfScript(file, line) : (this.#rules.get(withoutQuery(address)) ?? null);
    return { trouble, file, line, text, rule };
  }

  addressOf({ written, namedBy }: PageAbout['files'][number]): string {
    return resolved(written, this.host.origin + namedBy) ?? written;
  }

  /** A finding of what a script throws for, or of one that throws since another one did not run. */
  #ruleOfScript(file: string, line: number | null): string | null {
    const own = this.about.findings.filter((finding) => finding.file === file && THROWING.has(finding.rule));
    return (own.find((finding) => finding.line === line) ?? own[0])?.rule ?? null;
  }

  #pathOf(address: string): string {
    const { origin, folder } = this.host;
    const start = origin + folder;
    const plain = withoutQuery(address);
    if (!plain.startsWith(start)) return plain.startsWith(`${origin}/`) ? plain.slice(origin.length) : plain;
    try {
      return decodeURIComponent(plain.slice(start.length)) || this.about.path;
    } catch {
      return plain.slice(start.length);
    }
  }
}

function resolved(written: string, base: string): string | null {
  try {
    return withoutQuery(new URL(written.trim(), base).href);
  } catch {
    return null;
  }
}

function withoutQuery(address: string): string {
  return address.replace(/[?#].*$/s, '');
}

/** What took no effect on any of the pages that were opened and have it. */
export function idleEverywhere(pages: readonly LookedPage[]): readonly Look[] {
  const working = new Set(
    pages.flatMap(({ has, idle }) => {
      const own = new Set(idle.map(keyOf));
      return has.filter((key) => !own.has(key));
    }),
  );
  const all = new Map(pages.flatMap(({ idle }) => idle.map((look) => [keyOf(look), look] as const)));
  return [...all].filter(([key]) => !working.has(key)).map(([, look]) => look);
}
