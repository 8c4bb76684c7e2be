/** Brings the parts of all pages into step with the entry page. */

import type { Edit } from '../change/edit.ts';
import { areEqual, type Files } from '../change/files.ts';
import { beforeEnd, leadOf } from './manner.ts';
import { type Outline, type Outlined, outlineOf } from './outline.ts';
import { openPage, type Page } from './page.ts';
import {
  CURRENT,
  closingMark,
  type Master,
  mastersOf,
  openingMark,
  type Part,
  partEdits,
  partsOf,
} from './parts.ts';
import { swallowedBy } from './swallowed.ts';

/** Copies the entry page's parts to where pages mark them. Gives the pages that changed. */
export function fillParts(site: Files, entry: string, pages: readonly string[]): string[] {
  if (!site.has(entry)) return [];
  const master = openPage(entry, site.read(entry));
  const masters = mastersOf(master);
  if (masters.size === 0) return [];
  return pages.filter((path) => {
    const page = path === entry ? master : openPage(path, site.read(path));
    if (page.base === null) return false;
    const edits = partEdits(page, masters);
    if (edits.length === 0) return false;
    // What a page's encoding cannot hold is written as character references, and so looks different as text.
    const bytes = page.edited(edits);
    if (areEqual(bytes, site.read(path))) return false;
    site.write(path, bytes);
    return true;
  });
}

/** What became of a page that does not mark a part. */
export type Taken = 'marked' | 'added' | 'differs' | 'replaced' | 'swallowed';

/**
 * Gives a page a part that it does not mark: an element of its own that says the same is marked, one that
 * says something else is replaced only where `replaces` says so, and where there is none the part is added
 * at the place that it has on the entry page.
 */
export function takePart(
  site: Files,
  entry: Outline,
  master: Master,
  path: string,
  replaces: boolean,
): Taken | null {
  const { part } = master;
  const page = openPage(path, site.read(path));
  if (page.base === null || partsOf(page).some(({ name }) => name === part.name)) return null;
  const outline = outlineOf(page);
  if (swallowedBy(outline) !== null) return 'swallowed';
  const content = master.contentFor(page, page.reading.anchors);
  const whole = soleElement(entry, part);
  const twin = whole === null ? null : twinOf(outline, whole);
  const block = (lead: string, inner: string) =>
    `${openingMark(part.name)}${inner}${lead || page.newline}${closingMark(part.name)}`;
  if (twin !== null) {
    const lead = leadOf(outline, twin);
    const own = page.text(twin.start, twin.end);
    const same = squeezed(own) === squeezed(content);
    if (!same && !replaces) return 'differs';
    site.write(
      path,
      page.edited([{ start: twin.start, end: twin.end, text: block(lead, content.trimEnd()) }]),
    );
    return same ? 'marked' : 'replaced';
  }
  const edit = insertion(outline, entry, part, (lead) => block(lead, content.trimEnd()));
  if (edit === null) return null;
  site.write(path, page.edited([edit]));
  return 'added';
}

/** Marks an element of the entry page as a part. */
export function markPart(entry: Page, name: string, selector: string): Uint8Array | 'none' | number {
  const outline = outlineOf(entry);
  const found = outline.select(selector);
  const [element] = found;
  if (element === undefined) return 'none';
  if (found.length > 1) return found.length;
  const lead = leadOf(outline, element);
  const own = entry.text(element.start, element.end);
  const gap = lead || entry.newline;
  const text = `${openingMark(name)}${gap}${own}${gap}${closingMark(name)}`;
  return entry.edited([{ start: element.start, end: element.end, text }]);
}

/** The element that makes up a part all by itself; null where there are several. */
function soleElement(outline: Outline, { innerStart, innerEnd }: Part): Outlined | null {
  const inside = outline.elements.filter(({ start, end }) => start >= innerStart && end <= innerEnd);
  const [first] = inside;
  if (first === undefined || inside.some(({ start }) => start >= first.end)) return null;
  return first;
}

/** The element of another page that plays the same role: by id, else by name and class, else the only one of its name. */
function twinOf(outline: Outline, model: Outlined): Outlined | null {
  const alike = outline.elements.filter(({ name, region }) => name === model.name && region === model.region);
  const id = model.attribute('id');
  if (id !== null) return alike.find((element) => element.attribute('id') === id) ?? null;
  const sameClass = alike.filter((element) => element.attribute('class') === model.attribute('class'));
  if (sameClass.length === 1) return sameClass[0] as Outlined;
  return alike.length === 1 ? (alike[0] as Outlined) : null;
}

/** Markup with white space and the mark of the current page aside. */
function squeezed(markup: string): string {
  return markup.replace(CURRENT, '').replace(/\s+/g, ' ').trim();
}

/** Where a part goes in a page that has nothing like it: in the head, before the main content, or after it. */
function insertion(
  outline: Outline,
  model: Outline,
  part: Part,
  block: (lead: string) => string,
): Edit | null {
  const { page } = outline;
  const at = (offset: number, text: string): Edit => ({ start: offset, end: offset, text });
  const isInHead = model.elements.some(
    ({ start, end, region }) => region === 'head' && start >= part.innerStart && end <= part.innerEnd,
  );
  if (isInHead) {
    const head = outline.first('head');
    const end = head && beforeEnd(outline, head);
    return end ? at(end.at, end.lead + block(end.lead)) : null;
  }
  // Parts that the page has already keep the order of the entry page.
  const order = partsOf(model.page).map(({ name }) => name);
  const mine = order.indexOf(part.name);
  const own = partsOf(page);
  const main = outline.first('main');
  const modelMain = model.first('main');
  const isBefore = modelMain === null ? mine === 0 : part.start < modelMain.start;
  const onMySide = (other: Part) => main === null || other.start < main.start === isBefore;
  const before = own.findLast((other) => onMySide(other) && order.indexOf(other.name) < mine);
  if (before !== undefined) {
    const lead = leadOf(outline, before) || page.newline;
    return at(before.end, lead + block(lead));
  }
  const after = own.find((other) => onMySide(other) && order.indexOf(other.name) > mine);
  if (after !== undefined) {
    const lead = leadOf(outline, after) || page.newline;
    return at(after.start, block(lead) + lead);
  }
  if (isBefore) {
    const body = outline.first('body');
    const first = outline.elements.find(({ region, name }) => region === 'body' && name !== 'body');
    const lead = first === undefined ? page.newline : leadOf(outline, first) || page.newline;
    if (body !== null) return at(body.startTag.end, lead + block(lead));
    return first === undefined ? null : at(first.start, block(lead) + lead);
  }
  if (main?.endTag) {
    const lead = leadOf(outline, main) || page.newline;
    return at(main.end, lead + block(lead));
  }
  const scripts = trailingScripts(outline);
  if (scripts !== null) {
    const lead = leadOf(outline, scripts) || page.newline;
    return at(scripts.start, block(lead) + lead);
  }
  const body = outline.first('body');
  const end = body && beforeEnd(outline, body);
  return end ? at(end.at, (end.lead || page.newline) + block(end.lead || page.newline)) : null;
}

/** The first of the scripts that end the body; null where something else does. */
function trailingScripts(outline: Outline): Outlined | null {
  let first: Outlined | null = null;
  for (const element of outline.elements.toReversed()) {
    if (element.region !== 'body' || element.name !== 'script') break;
    first = element;
  }
  return first;
}
