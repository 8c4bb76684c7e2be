/** What a page runs: its scripts in the order of the page, and what its event handlers need. */
import { factsOfCode } from '../order/code-facts.ts';
import { isOfElement } from '../order/handler-names.ts';
import type { ScriptFacts } from '../order/steps.ts';
import { detach, detachShared } from '../read/detach.ts';
import { decoderFor } from '../read/encoding.ts';
import { isAttribute } from '../read/holder.ts';
import type { Extent } from '../read/lines.ts';
import type { HandlerCode, PageFacts, Reading, Reference, Span } from '../read/reading.ts';
import type { Leads } from '../resolve/resolver.ts';

/** Where the code of a script is: in a file of the site, on another host, in the page itself, or nowhere. */
type CodeSource =
  | { readonly in: 'file'; readonly path: string }
  | { readonly in: 'host'; readonly address: string }
  | { readonly in: 'page'; readonly facts: ScriptFacts | null }
  | { readonly in: 'nowhere'; readonly written: string };

/** The address of a script in the head that the page waits for. */
interface Blocking {
  readonly written: string;
  readonly extent: Extent;
}

/** A script of a page that a browser runs. The span is that of its address, or of its code. */
export interface ScriptTag extends Span {
  /** Of one in the head that the page waits for: what it says, and where; else null. */
  readonly blocking: Blocking | null;
  readonly source: CodeSource;
  readonly goal: 'script' | 'module';
  readonly isInHead: boolean;
  readonly runs: 'at-once' | 'deferred' | 'async';
}

/** A name that an event handler needs; the span is that of the handler's code. */
export interface HandlerNeed extends Span, Pick<HandlerCode, 'element' | 'attribute'> {
  readonly name: string;
  /** Where the name stands in the code (UTF-16). */
  readonly start: number;
  readonly end: number;
}

const none: readonly never[] = [];

export function scriptsOf(
  { page, references }: Reading,
  leads: Leads,
  extentOf: (span: Span) => Extent,
): readonly ScriptTag[] {
  if (page === null) return none;
  const tags: ScriptTag[] = page.code.map(({ offset, length, goal, isAsync, isInHead, text }) => {
    const runs = goal === 'script' ? 'at-once' : isAsync ? 'async' : 'deferred';
    return {
      offset,
      length,
      goal,
      isInHead,
      runs,
      source: { in: 'page', facts: factsOfCode(text, goal) },
      blocking: null,
    };
  });
  for (const reference of references) {
    const tag = tagOf(reference, leads, extentOf);
    if (tag !== null) tags.push(tag);
  }
  return tags.sort((one, other) => one.offset - other.offset);
}

function tagOf(reference: Reference, leads: Leads, extentOf: (span: Span) => Extent): ScriptTag | null {
  const { kind, written, standing, offset, length } = reference;
  const runs = standing?.document === 0 ? whenRun(reference) : null;
  if (runs === null || (kind !== 'script' && kind !== 'module')) return null;
  const isBlocking = runs === 'at-once' && standing?.region === 'head';
  const isInHead = standing?.region !== 'body';
  const blocking = isBlocking ? { written: detachShared(written), extent: extentOf(reference) } : null;
  return { offset, length, goal: kind, isInHead, runs, source: sourceOf(written, leads), blocking };
}

/** When the source of a script element runs (HTML 4.12.1); null for one that does not, and for what is none. */
export function whenRun({ kind, holder, standing }: Reference): ScriptTag['runs'] | null {
  if ((kind !== 'script' && kind !== 'module') || !isAttribute(holder, 'script', 'src')) return null;
  if (standing?.inside === 'template' || standing?.inside === 'noscript') return null;
  const held = standing?.attributes ?? {};
  if (kind === 'script' && 'nomodule' in held) return null;
  if ('async' in held) return 'async';
  return kind === 'module' || 'defer' in held ? 'deferred' : 'at-once';
}

function sourceOf(written: string, leads: Leads): CodeSource {
  const lead = leads.of(written.replace(/#.*/s, ''));
  if (lead.found !== null) return { in: 'file', path: lead.found.path };
  return lead.elsewhere
    ? { in: 'host', address: detachShared(written) }
    : { in: 'nowhere', written: detachShared(written) };
}

/** The code of a script that stands in its page. */
export function codeOf(
  bytes: Uint8Array,
  { encoding }: { readonly encoding: string },
  { offset, length }: Span,
): string {
  return decoderFor(encoding).decode(bytes.subarray(offset, offset + length));
}

/** True where an event handler of the page reads the fragment of its address. */
export function handlersReadFragment(page: PageFacts | null): boolean {
  return (page?.handlers ?? []).some(({ text }) => factsOfCode(text, 'handler')?.readsFragment);
}

/** Names that the page's event handlers need as they run, and that neither browsers nor their elements give. */
export function handlerNeedsOf(page: PageFacts | null): readonly HandlerNeed[] {
  return (page?.handlers ?? none).flatMap(({ offset, length, text, element, attribute }) => {
    const facts = factsOfCode(text, 'handler');
    if (facts === null) return [];
    const needed = facts.atLoad.filter(
      ({ does, isSure, name, piece }) => does === 'needs' && isSure && piece === 0 && !isOfElement(name),
    );
    const at = { offset, length, element: detachShared(element), attribute: detachShared(attribute) };
    return needed.map(({ name, start, end }) => ({ ...at, name: detach(name), start, end }));
  });
}
