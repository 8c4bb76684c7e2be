/** The check: inventory, then readings, resolved references and findings, one stage after the other. */
import { rules } from './judge/index.ts';
import type { SiteView, Subject, Verdict } from './judge/rule.ts';
import { driftsOf, mastersIn, maybeMarked, partDrift } from './judge/rules/part-drift.ts';
import { addressFor } from './mend/address.ts';
import type { Master } from './page/parts.ts';
import { positionsIn } from './read/lines.ts';
import { isPage, isRead, readFile } from './read/read.ts';
import type { Reference } from './read/reading.ts';
import { countGrades, type Finding, type Mend, type Report, type Unread } from './report.ts';
import { leadsSomewhere } from './resolve/fragment.ts';
import { locate } from './resolve/locate.ts';
import { baseAddress, resolve } from './resolve/resolve.ts';
import type { Inventory } from './site/inventory.ts';
import { segmentsTo, walk } from './site/walk.ts';

/** A check under way. Give it the bytes of every file in {@link Check.wanted}, then ask for the report. */
export interface Check {
  /** Site paths of the files whose bytes are needed, in order. */
  readonly wanted: readonly string[];
  /** Reads one file; keeps only what the report needs. */
  take(path: string, bytes: Uint8Array): void;
  /** Notes that a file could not be read. */
  skip(path: string, why: string): void;
  /** Judges all that was taken. `bytesOf` is asked once for each file with findings, for their lines. */
  report(folder: string, bytesOf: (path: string) => Uint8Array): Report;
}

/** Copies a text that may be a slice of a whole page, which would stay in memory with it. */
function detach(text: string): string {
  // Joining makes a new string; taking the end off it again keeps no more than that.
  return `${text}\0`.slice(0, -1);
}

function detachAll(texts: ReadonlySet<string>): ReadonlySet<string> {
  return texts.size === 0 ? texts : new Set([...texts].join('\0').split('\0'));
}

/** A finding before its line and column are known. */
type Draft = Omit<Finding, 'line' | 'column'>;

/** `entry`: the page that holds the masters of parts. */
export function startCheck(inventory: Inventory, entry = 'index.html'): Check {
  const anchorsOfPages = new Map<string, ReadonlySet<string>>();
  const suspects: Subject[] = [];
  /** Encodings of files that are not UTF-8. */
  const encodings = new Map<string, string>();
  const unread: Unread[] = [];
  let references = 0;
  let external = 0;
  const site: SiteView = { inventory, anchorsOf: (path) => anchorsOfPages.get(path) ?? null };
  const wanted = [...inventory.files.keys()].filter((path) => isRead(path)).sort();
  // The masters of parts come first, so that copies can be compared as they pass.
  if (wanted.includes(entry)) wanted.unshift(...wanted.splice(wanted.indexOf(entry), 1));
  let masters: readonly Master[] = [];
  const drifts: Draft[] = [];

  return {
    wanted,
    take(file, bytes) {
      const binary = notText(bytes);
      const reading = binary === null ? readFile(file, bytes) : null;
      if (binary !== null) unread.push({ file, why: binary });
      if (reading === null) return;
      if (reading.encoding !== 'utf-8') encodings.set(file, reading.encoding);
      if (isPage(file)) anchorsOfPages.set(file, detachAll(reading.anchors));
      if (isPage(file) && maybeMarked(bytes)) {
        if (file === entry) masters = mastersIn(entry, bytes);
        for (const { part, message, offset, length } of driftsOf(file, bytes, entry, masters)) {
          const about = {
            holder: `part ${part}`,
            written: part,
            kind: null,
            target: null,
            walk: [],
            mends: [],
          };
          drifts.push({
            rule: partDrift.name,
            grade: partDrift.grade,
            file,
            offset,
            length,
            message,
            ...about,
          });
        }
      }
      const base = baseAddress(file, reading.base);
      for (const reference of reading.references) {
        if (!isJudged(file, reference)) continue;
        references++;
        const target = resolve(reference.written, base);
        if (target.in === 'elsewhere') external++;
        else if (isSuspect({ file, reference, target, site })) {
          // Resolved again, so that the target holds no slice of the page either.
          const kept = { ...reference, written: detach(reference.written), spot: null };
          suspects.push({ file, reference: kept, target: resolve(kept.written, base), site });
        }
      }
    },
    skip: (file, why) => unread.push({ file, why }),
    report(folder, bytesOf) {
      const drafts = [...suspects.flatMap((subject) => draft(subject) ?? []), ...drifts];
      const findings = locateDrafts(drafts, bytesOf, encodings);
      const pages = wanted.filter(isPage).length;
      const counts = countGrades(findings);
      const summary = { folder, pages, files: inventory.files.size, references, external };
      return { cravel: 1, site: summary, counts, findings, unread };
    },
  };
}

/**
 * True for references whose target is known from their file alone. Not so are those that a script starts from the
 * page that runs it, and bare module specifiers.
 */
function isJudged(file: string, { from, kind, holder, written }: Reference): boolean {
  if (from === 'page' && !isPage(file)) return false;
  const isSpecifier = kind === 'module' && /^(?:import|export)/.test(holder);
  return !isSpecifier || /^\s*(?:\.{0,2}\/|[a-z][a-z0-9+.-]*:)/i.test(written);
}

/** True where a reference cannot be passed before all pages are read. */
function isSuspect({ file, target, site }: Subject): boolean {
  if (target.in !== 'site') return true;
  const found = locate(site.inventory, target.path);
  if (found === null) return true;
  if (target.fragment === null) return false;
  const anchors = site.anchorsOf(found);
  if (anchors !== null) return !leadsSomewhere(target.fragment, anchors);
  return isPage(found) && found !== file;
}

function draft(subject: Subject): Draft | null {
  for (const rule of rules) {
    const verdict = rule.judge(subject);
    if (verdict === null) continue;
    const { file, reference } = subject;
    const { offset, length, holder, written, kind } = reference;
    const { message, target, walk: steps } = verdict;
    const { name, grade } = rule;
    const mends = mendsFor(subject, verdict);
    return {
      rule: name,
      grade,
      file,
      offset,
      length,
      holder,
      written,
      kind,
      target,
      message,
      walk: steps,
      mends,
    };
  }
  return null;
}

function mendsFor(subject: Subject, { candidates }: Verdict): Mend[] {
  const { file, reference, target, site } = subject;
  if (target.in === 'elsewhere') return [];
  const { offset, length } = reference;
  return candidates.map((candidate) => {
    const text = addressFor(reference, target.folder, candidate);
    const folder = text.startsWith('/') ? '' : target.folder;
    return {
      sure: candidate.sure,
      title: `write ${text}`,
      walk: walk(site.inventory, folder, segmentsTo(folder, candidate.path)),
      edits: [{ file, offset, length, text }],
    };
  });
}

/** Adds lines and columns, and puts findings in the order of files and offsets. */
function locateDrafts(
  drafts: readonly Draft[],
  bytesOf: (path: string) => Uint8Array,
  encodings: ReadonlyMap<string, string>,
): Finding[] {
  const sorted = drafts.toSorted((a, b) =>
    a.file === b.file ? a.offset - b.offset : a.file < b.file ? -1 : 1,
  );
  let file: string | null = null;
  let positionOf = positionsIn(new Uint8Array());
  return sorted.map((finding) => {
    if (finding.file !== file) {
      file = finding.file;
      positionOf = positionsIn(bytesOf(file), encodings.get(file));
    }
    const { rule, grade, file: path, ...rest } = finding;
    return { rule, grade, file: path, ...positionOf(finding.offset), ...rest };
  });
}

/** Why bytes cannot be read as text; null where they can. UTF-16 is told by its byte order mark. */
function notText(bytes: Uint8Array): string | null {
  const mark = ((bytes[0] ?? 0) << 8) | (bytes[1] ?? 0);
  if (mark === 0xfeff || mark === 0xfffe) return null;
  const zero = bytes.subarray(0, 4096).indexOf(0);
  if (zero < 0) return null;
  return `this is not text (byte ${zero} is NUL): give it the extension of what it is, or take it out of the site`;
}
