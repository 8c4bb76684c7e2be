/** Adds a link to a navigation, in the manner of the links that are there. */

import type { Edit } from '../change/edit.ts';
import { relativePath } from '../mend/address.ts';
import { isLink } from '../read/holder.ts';
import { folderOf } from '../site/inventory.ts';
import { beforeEnd, leadOf } from './manner.ts';
import { inOneLine } from './naming.ts';
import { type Outline, type Outlined, outlineOf } from './outline.ts';
import { escapeMarkup, type Page } from './page.ts';
import { leadsTo, type Part } from './parts.ts';

/** The part of `parts` that holds a navigation: the one of that name, else the first with a `nav` element. */
export function navigationPart(page: Page, parts: readonly Part[]): Part | null {
  const named = parts.find(({ name }) => name === 'navigation');
  const holding = parts.find(({ innerStart, innerEnd }) =>
    /<nav[\s>]/i.test(page.text(innerStart, innerEnd)),
  );
  return named ?? holding ?? null;
}

/** The page with a link to the page `file`; null where the part has one already. */
export function withLink(page: Page, part: Part, file: string, label: string): Uint8Array | null {
  const outline = outlineOf(page);
  const inside = outline.elements.filter(
    ({ start, end }) => start >= part.innerStart && end <= part.innerEnd,
  );
  const nav = inside.find(({ name }) => name === 'nav');
  const held = nav === undefined ? inside : outline.within(nav);
  const isFollowed = ({ name, attribute }: Outlined) => name === 'a' && attribute('href') !== null;
  const links = held.filter(isFollowed);
  const references = page.reading.references.filter(
    ({ holder, offset }) => isLink(holder) && links.some(({ startTag }) => isIn(startTag, offset)),
  );
  if (references.some((reference) => leadsTo(reference, page.base, file))) return null;
  const address = relativePath(folderOf(page.base ?? ''), file);
  // A link to a section that is called the same now leads to the page of its own.
  const section = links.find((link) => isSectionCalled(page, link, label));
  const href = section && references.find(({ offset }) => isIn(section.startTag, offset));
  if (href !== undefined)
    return page.edited([{ start: href.offset, end: href.offset + href.length, text: address }]);
  const last = links.at(-1);
  return page.edited([
    last === undefined
      ? firstLink(outline, nav, part, address, label)
      : linkLike(outline, last, address, label),
  ]);
}

function isIn({ start, end }: { readonly start: number; readonly end: number }, offset: number): boolean {
  return offset > start && offset < end;
}

function isSectionCalled(page: Page, link: Outlined, label: string): boolean {
  if (!link.attribute('href')?.startsWith('#') || link.endTag === null) return false;
  const text = inOneLine(page.text(link.startTag.end, link.endTag.start));
  return text.toLowerCase() === escapeMarkup(label).toLowerCase();
}

function firstLink(
  outline: Outline,
  nav: Outlined | undefined,
  part: Part,
  address: string,
  label: string,
): Edit {
  const markup = `<a href="${address}">${escapeMarkup(label)}</a>`;
  const end = nav === undefined ? null : beforeEnd(outline, nav);
  if (end !== null) return { start: end.at, end: end.at, text: end.lead + markup };
  return { start: part.innerEnd, end: part.innerEnd, text: markup + outline.page.newline };
}

/** A copy of a link, or of the list item that holds it alone, with another address and label. */
function linkLike(outline: Outline, link: Outlined, address: string, label: string): Edit {
  const { page } = outline;
  const parent = link.element.parent;
  const item = outline.elements.find(({ element, name }) => element === parent && name === 'li') ?? null;
  const model = item ?? link;
  const tag = page
    .text(link.startTag.start, link.startTag.end)
    .replace(/\s+(?:aria-current|id|title|accesskey)\s*=\s*(?:"[^"]*"|'[^']*'|[^\s>]+)/gi, '')
    .replace(/(\shref\s*=\s*)("[^"]*"|'[^']*'|[^\s>]+)/i, (_all, lead: string, value: string) => {
      const quote = /^["']/.test(value) ? (value[0] as string) : '';
      return lead + quote + address + quote;
    });
  const copy = `${tag}${escapeMarkup(label)}</a>`;
  const itemTag =
    item === null
      ? ''
      : page
          .text(item.startTag.start, item.startTag.end)
          .replace(/\s+id\s*=\s*(?:"[^"]*"|'[^']*'|[^\s>]+)/i, '');
  const itemEnd = item?.endTag ? page.text(item.endTag.start, item.endTag.end) : '';
  // Links in a row may be parted by something: what stands between the last two stands before the new one too.
  const between = leadOf(outline, model) || separatorBefore(outline, model);
  return { start: model.end, end: model.end, text: between + itemTag + copy + itemEnd };
}

function separatorBefore({ page, elements }: Outline, model: Outlined): string {
  const before = elements.findLast(({ name, end }) => name === model.name && end <= model.start);
  if (before === undefined) return ' ';
  const between = page.text(before.end, model.start);
  return between.length <= 20 && !between.includes('<') ? between : ' ';
}
