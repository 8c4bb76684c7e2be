/** A page whose scripts run, and what is missing as they do. */
import { pushTo } from '../group-by.ts';
import type { MissingName } from '../judge/rule.ts';
import type { PageRun } from '../order/page-script.ts';
import type { Holder } from '../read/holder.ts';
import type { Extent } from '../read/lines.ts';
import type { Span } from '../read/reading.ts';
import type { ScriptTag } from './page-code.ts';
import type { Entry, RunList } from './run-list.ts';
import type { Share } from './share.ts';

/** What is asked for while findings are made. */
export interface Sources {
  bytesOf(path: string): Uint8Array;
  extentIn(file: string, span: Span): Extent;
}

/** A page with its scripts, as they run. */
export interface RunningPage {
  readonly share: Share;
  readonly list: RunList;
  readonly run: PageRun;
  /** Whether something is missing depends on which elements it has. */
  readonly isByElements: boolean;
}

/** Something that is missing on a page. */
export interface Lack {
  readonly page: RunningPage;
  readonly missing: MissingName;
  /** Where it is told: the file, and the spot in it. */
  readonly file: string;
  readonly span: Span;
  readonly holder: Holder;
  /** What makes it and is a file of the site. */
  readonly target: string | null;
  /** The script that needs it, as a number of the list; null for an event handler, and for what is not exported. */
  readonly user: number | null;
  /** Those that make it, and run later. */
  readonly makers: readonly number[];
  /** What puts the name that was meant in its place. */
  readonly meant: string | null;
}

/** Names that handlers need and no script makes. */
export function openNames({ handlers }: Share, { names, isUnknown }: PageRun): string[] {
  return isUnknown ? [] : handlers.flatMap(({ name }) => (names.has(name) ? [] : name));
}

/** A script as people call it: by its path, code of a page by `page:line`. */
export function calledIn(
  { share }: RunningPage,
  { file, address, tag }: Entry,
  { extentIn }: Sources,
): string {
  if (file !== null) return file;
  if (address !== null) return address;
  return `${share.file}:${extentIn(share.file, share.scripts[tag] as ScriptTag).line}`;
}

/** The pages that run each file. */
export function runnersOf(running: readonly RunningPage[]): ReadonlyMap<string, readonly string[]> {
  const runners = new Map<string, string[]>();
  for (const { list, share } of running)
    for (const file of new Set(list.entries.flatMap((entry) => entry.file ?? [])))
      pushTo(runners, file, share.file);
  return runners;
}
