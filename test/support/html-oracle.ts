/** What parse5 makes of a page, and what Cravel's scanner does, in one shape for comparison. */
import { type DefaultTreeAdapterTypes, Parser, type Token, TokenizerMode } from 'parse5';
import { decodeAttribute } from '../../src/core/read/decode.ts';
import type { Construction } from '../../src/core/read/html/construction.ts';
import { FullRules } from '../../src/core/read/html/full-rules.ts';
import { elements } from '../../src/core/read/html/names.ts';
import { QuickRules } from '../../src/core/read/html/quick-rules.ts';
import { ContentMode, Slot, scanHtml, type Tag } from '../../src/core/read/html/scan.ts';
import { makeSource, type Source } from '../../src/core/read/source.ts';
import { bytesOf } from './site.ts';

export interface StartTag {
  readonly name: string;
  readonly attributes: readonly (readonly [name: string, value: string])[];
  /** Where the element ends up; null where it is not in the finished tree, as far as is known. */
  region: 'head' | 'body' | 'none' | null;
}

type Node = DefaultTreeAdapterTypes.Node;

/** Start tags in order, as parse5 parses the page, and what a noscript holds as the content of a body without scripts. */
export function tagsByParse5(html: string, scriptingEnabled = true): StartTag[] {
  const tags: StartTag[] = [];
  const byOffset = new Map<number, StartTag>();
  /** Of each noscript that holds text: its place among the tags, and where its content starts. */
  const noscripts: { readonly index: number; readonly start: number }[] = [];
  class Recorder extends Parser<DefaultTreeAdapterTypes.DefaultTreeAdapterMap> {
    override onStartTag(token: Token.TagToken): void {
      const attributes = token.attrs.map(({ name, value }) => [name, value] as const);
      const tag: StartTag = { name: token.tagName, attributes, region: null };
      tags.push(tag);
      byOffset.set(token.location?.startOffset ?? -1, tag);
      super.onStartTag(token);
      if (token.tagName === 'noscript' && this.tokenizer.state === TokenizerMode.RAWTEXT)
        noscripts.push({ index: tags.length, start: token.location?.endOffset ?? 0 });
    }
  }
  const parser = new Recorder({ scriptingEnabled, sourceCodeLocationInfo: true });
  // A decoder takes a byte order mark off (Encoding 6).
  const text = html.replace(/^\uFEFF/, '');
  parser.tokenizer.write(text, true);
  const visit = (node: Node, region: 'head' | 'body' | 'none') => {
    const opens =
      'tagName' in node && (node.tagName === 'head' || node.tagName === 'body') && region === 'none';
    const inside = opens ? (node.tagName as 'head' | 'body') : region;
    const start = 'sourceCodeLocation' in node ? node.sourceCodeLocation?.startOffset : undefined;
    const tag = start === undefined || !('tagName' in node) ? undefined : byOffset.get(start);
    // An element made for another tag, such as a tbody for a tr, has that tag's place.
    if (tag && 'tagName' in node && sameName(tag.name, node.tagName)) tag.region ??= inside;
    for (const child of 'childNodes' in node ? node.childNodes : []) visit(child, inside);
    if ('content' in node) visit(node.content, inside);
  };
  visit(parser.document, 'none');
  for (const { index, start } of noscripts.reverse()) {
    const content = text.slice(start).split(/<\/noscript(?=[\s/>])/i)[0] as string;
    const region = tags[index - 1]?.region ?? null;
    const held = tagsByParse5(`<!doctype html><body>${content}`, false).slice(1);
    tags.splice(index, 0, ...held.map((tag) => ({ ...tag, region })));
  }
  return tags;
}

function sameName(token: string, element: string): boolean {
  return token === element.toLowerCase() || (token === 'image' && element === 'img');
}

/** Start tags in order, as Cravel scans the page. `rules` are those used, quick or full. */
export function tagsByCravel(html: string): { tags: StartTag[]; rules: 'quick' | 'full' } {
  const source = makeSource(bytesOf(html));
  const quick = record(source, new QuickRules(source.bytes));
  if (quick !== null) return { tags: quick, rules: 'quick' };
  return { tags: record(source, new FullRules(source.bytes)) as StartTag[], rules: 'full' };
}

/** Start tags by the full rules, whatever the page holds. */
export function tagsByFullRules(html: string): StartTag[] {
  const source = makeSource(bytesOf(html));
  return record(source, new FullRules(source.bytes)) as StartTag[];
}

function record(source: Source, construction: Construction): StartTag[] | null {
  const tags: StartTag[] = [];
  let stopped = false;
  scanHtml(source, {
    wantsText: true,
    get wantsEndTags() {
      return construction.wantsEndTags;
    },
    text: (start, end) => construction.text(start, end),
    doctype: (start, end) => construction.doctype(start, end),
    inForeignContent: () => construction.inForeignContent(),
    endTag(tag) {
      stopped ||= !construction.endTag(tag);
      return !stopped;
    },
    rawText() {},
    startTag(tag) {
      const mode = construction.startTag(elements.find(source.bytes, tag.nameStart, tag.nameEnd), tag);
      stopped ||= mode === ContentMode.Stop;
      const attributes = new Map<string, string>();
      for (let slot = 0; slot < tag.attributeCount * Slot.Width; slot += Slot.Width)
        addAttribute(source, tag, slot, attributes);
      tags.push({
        name: lower(source.text(tag.nameStart, tag.nameEnd)),
        attributes: [...attributes],
        region: construction.region,
      });
      return mode;
    },
  });
  return stopped ? null : tags;
}

function addAttribute(
  source: Source,
  { attributes: at }: Tag,
  slot: number,
  attributes: Map<string, string>,
): void {
  const name = lower(source.text(at[slot] as number, at[slot + Slot.NameEnd] as number));
  const start = at[slot + Slot.ValueStart] as number;
  const value = start < 0 ? '' : decodeAttribute(source.text(start, at[slot + Slot.ValueEnd] as number));
  if (!attributes.has(name)) attributes.set(name, value);
}

function lower(text: string): string {
  return text.replaceAll('\0', '\uFFFD').replace(/[A-Z]+/g, (letters) => letters.toLowerCase());
}
