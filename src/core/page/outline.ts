/** The outline of a page: its elements with their places, as the HTML standard's parsing makes them. */
import { selectAll } from 'css-select';
import { type AnyNode, type ChildNode, Element, isTag, isText, type ParentNode } from 'domhandler';
import { parse, parseFragment, type Token } from 'parse5';
import { adapter } from 'parse5-htmlparser2-tree-adapter';
import { fail } from '../errors.ts';
import { byteOffsets } from '../read/offsets.ts';
import type { Source } from '../read/source.ts';
import type { Page } from './page.ts';
import type { Range, Tagged, Tags } from './tags.ts';

/** An element with its place in the tree. */
export interface Outlined extends Tagged {
  readonly element: Element;
}

export interface Outline extends Tags {
  /** Elements in document order; those that the parser adds by itself are not among them. */
  readonly elements: readonly Outlined[];
  first(...names: readonly string[]): Outlined | null;
  /** The elements that a selector (Selectors Level 4) matches. Throws a `CravelError` where it is no selector. */
  select(selector: string): Outlined[];
  /** The elements inside another one. */
  within(outer: Outlined): Outlined[];
}

const BOM = '\uFEFF';

export function outlineOf(page: Page): Outline {
  const { source } = page;
  const whole = new TextDecoder('utf-8', { ignoreBOM: true }).decode(source.bytes);
  const mark = whole.startsWith(BOM) ? 1 : 0;
  const text = whole.slice(mark);
  const document = parse(text, {
    sourceCodeLocationInfo: true,
    treeAdapter: adapter,
  });
  const offsetOf = offsetTable(source, whole, mark);
  const elements: Outlined[] = [];
  const byElement = new Map<Element, Outlined>();
  const tags = new Set<number>();
  let doctypeEnd = 0;
  // Elements stand in each other as deep as somebody likes: they are walked without a call for each.
  const waiting: { readonly node: ChildNode; readonly region: Outlined['region']; readonly from: number }[] =
    [];
  const wait = ({ children }: ParentNode, region: Outlined['region'], from: number) => {
    for (let at = children.length - 1; at >= 0; at--)
      waiting.push({ node: children[at] as ChildNode, region, from });
  };
  wait(document, 'none', 0);
  for (let next = waiting.pop(); next !== undefined; next = waiting.pop()) {
    const { node, region, from } = next;
    if (node.type === 'directive') doctypeEnd = offsetOf(node.sourceCodeLocation?.endOffset ?? 0);
    if (!isTag(node)) continue;
    const here = node.name === 'head' || node.name === 'body' ? node.name : region;
    const outlined = outlineElement(node, here, (position) => offsetOf(from + position));
    // A formatting element that is made again further on (HTML 13.2.4.3) has one tag all the same.
    if (outlined !== null && !tags.has(outlined.start)) {
      tags.add(outlined.start);
      elements.push(outlined);
      byElement.set(node, outlined);
    }
    // What a template holds is no part of the page (HTML 4.12.3).
    if (node.name === 'template') continue;
    const start = from === 0 && node.name === 'noscript' ? startOfContent(node, text) : 0;
    if (start > 0) wait(node, 'none', start);
    else wait(node, here, from);
  }
  return {
    page,
    elements,
    doctypeEnd,
    first: (...names) => elements.find(({ name }) => names.includes(name)) ?? null,
    select(selector) {
      let found: Element[];
      try {
        found = selectAll<AnyNode, Element>(selector, document);
      } catch (error) {
        throw fail('bad-selector', selector, (error as Error).message);
      }
      return found.flatMap((element) => byElement.get(element) ?? []);
    },
    within: (outer) => elements.filter(({ start, end }) => start >= outer.startTag.end && end <= outer.end),
  };
}

/** Gives a noscript, whose content is text where scripts run, the elements that it has without; where that begins. */
function startOfContent(noscript: Element, text: string): number {
  const { startTag, endTag } = noscript.sourceCodeLocation ?? {};
  if (startTag === undefined) return 0;
  const content = text.slice(startTag.endOffset, endTag?.startOffset);
  const options = { sourceCodeLocationInfo: true, scriptingEnabled: false, treeAdapter: adapter };
  noscript.children = parseFragment(content, options).children;
  for (const child of noscript.children) child.parent = noscript;
  return startTag.endOffset;
}

/** Byte offsets of positions in `whole` after its first `skipped` units; asked in any order. */
function offsetTable(source: Source, whole: string, skipped: number): (position: number) => number {
  if (whole.length === source.bytes.length) return (position) => position + skipped;
  const rising = byteOffsets(source, whole);
  const table = Uint32Array.from({ length: whole.length + 1 }, (_none, position) => rising(position));
  return (position) => table[position + skipped] as number;
}

function outlineElement(
  element: Element,
  region: Outlined['region'],
  offsetOf: (position: number) => number,
): Outlined | null {
  const location = element.sourceCodeLocation;
  const { startTag, endTag } = location ?? {};
  if (!location || !startTag) return null;
  const range = ({ startOffset, endOffset }: { startOffset: number; endOffset: number }): Range => ({
    start: offsetOf(startOffset),
    end: offsetOf(endOffset),
  });
  return {
    element,
    name: element.name,
    ...range(location),
    startTag: range(startTag),
    endTag: endTag ? range(endTag) : null,
    region,
    attribute: (name) => (Object.hasOwn(element.attribs, name) ? (element.attribs[name] as string) : null),
    rangeOf(name) {
      const attribute = (location as Partial<Token.LocationWithAttributes>).attrs?.[name];
      return attribute === undefined ? null : range(attribute);
    },
    text: () => element.children.map((child) => (isText(child) ? child.data : '')).join(''),
  };
}
