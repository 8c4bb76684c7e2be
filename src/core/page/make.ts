/** Makes a page like another one: words of its own, its main content emptied, every reference re-based. */

import type { Edit } from '../change/edit.ts';
import { fail } from '../errors.ts';
import { relativePath } from '../mend/address.ts';
import { rebase, type Standpoint } from '../mend/rebase.ts';
import { type Holder, isAttribute, isLink } from '../read/holder.ts';
import { resolve } from '../resolve/resolve.ts';
import { firstNotBelow, lastNotAfter } from '../rising.ts';
import { folderOf } from '../site/inventory.ts';
import { attributeRemoval, valueEdit } from './attributes.ts';
import { indentUnit, leadAfter, leadOf, mannerOf } from './manner.ts';
import type { PageWords } from './naming.ts';
import { type Outline, type Outlined, outlineOf } from './outline.ts';
import { escapeMarkup, type Page } from './page.ts';
import { leadsTo, readMarks } from './parts.ts';
import { rangesOf } from './ranges.ts';
import { swallowedBy } from './swallowed.ts';
import type { Range } from './tags.ts';

/**
 * The page at site path `file`, made like `model`. Null where the model's addresses start outside of the site.
 * Throws a `CravelError` where an element that is never closed swallows the rest of the model.
 */
export function makeLike(model: Page, file: string, words: PageWords): Uint8Array | null {
  if (model.base === null) return null;
  const outline = outlineOf(model);
  const open = swallowedBy(outline);
  if (open !== null) throw fail('swallowed', model.file, open);
  const gone = contentOf(outline);
  const content = contentEdits(outline, gone, words);
  const emptied = rangesOf(content);
  const edits = [
    ...[...wordEdits(outline, words), ...ownAddress(outline, file)].filter((edit) => !emptied.touch(edit)),
    ...content,
  ];
  const taken = rangesOf(edits);
  const left = rangesOf(gone);
  const stays = ({ start }: Range) => !left.hold(start);
  const anchors = new Set(outline.elements.filter(stays).flatMap((element) => element.attribute('id') ?? []));
  // A page with a base of its own resolves as its model does, wherever it lies.
  const to: Standpoint = { base: model.reading.base === null ? file : rebasedBase(model, file), anchors };
  for (const reference of model.reading.references) {
    const range = { start: reference.offset, end: reference.offset + reference.length };
    if (taken.touch(range) || isOwnBase(model, reference.holder)) continue;
    const text = rebase(reference, { base: model.base, anchors: model.reading.anchors }, to);
    if (text !== null) edits.push({ ...range, text });
  }
  const links = model.reading.references.filter(({ holder }) => isLink(holder));
  const offsets = links.map(({ offset }) => offset);
  for (const link of outline.elements) {
    if (link.name !== 'a' || link.attribute('aria-current') !== 'page' || !stays(link)) continue;
    const reference = links[lastNotAfter(offsets, link.startTag.end)];
    const isOwn = reference !== undefined && reference.offset > link.start;
    // The mark of the current page goes from a link that leads to another one.
    if (!isOwn || !leadsTo(reference, model.base, file))
      edits.push(...attributeRemoval(model, link, 'aria-current'));
  }
  return model.edited(edits);
}

function isOwnBase(model: Page, holder: Holder): boolean {
  return isAttribute(holder, 'base', 'href') && model.reading.base !== null;
}

/** A relative `base` is kept as written, and so leads elsewhere from another folder. */
function rebasedBase(model: Page, file: string): string | null {
  const target = resolve(model.reading.base ?? '', file);
  return target.in === 'site' ? target.path : null;
}

/** Title, description and their copies for other programs. */
function wordEdits(outline: Outline, { title, description }: PageWords): Edit[] {
  const { page } = outline;
  const edits: Edit[] = [];
  const manner = mannerOf(outline);
  const head = outline.elements.filter(({ region }) => region === 'head');
  const titled = head.find(({ name }) => name === 'title');
  const metas = head.filter(({ name }) => name === 'meta');
  const keyOf = (meta: Outlined) =>
    (meta.attribute('name') ?? meta.attribute('property') ?? '').toLowerCase();
  for (const meta of metas) {
    const key = keyOf(meta);
    const text = /^(?:description|og:description|twitter:description)$/.test(key)
      ? description
      : /^(?:og:title|twitter:title)$/.test(key)
        ? title
        : null;
    if (text !== null) edits.push(...valueEdit(page, meta, 'content', text));
  }
  const missing: string[] = [];
  if (titled?.endTag) {
    edits.push({ start: titled.startTag.end, end: titled.endTag.start, text: escapeMarkup(title) });
  } else if (!titled) {
    missing.push(`${manner.element('title', [], true).replace('><', `>${escapeMarkup(title)}<`)}`);
  }
  if (!metas.some((meta) => keyOf(meta) === 'description')) {
    missing.push(
      manner.element(
        'meta',
        [
          ['name', 'description'],
          ['content', description],
        ],
        false,
      ),
    );
  }
  if (missing.length > 0) {
    const neighbour = titled ?? metas.at(-1);
    const at =
      neighbour?.end ??
      outline.first('head')?.startTag.end ??
      outline.first('html')?.startTag.end ??
      outline.doctypeEnd;
    const lead = neighbour ? leadAfter(outline, neighbour) : page.newline;
    edits.push({ start: at, end: at, text: missing.map((markup) => lead + markup).join('') });
  }
  return edits;
}

/** What says which address the page itself has leads to the new page. */
function ownAddress(outline: Outline, file: string): Edit[] {
  const { page } = outline;
  return outline.elements.flatMap((element) => {
    const isCanonical = element.name === 'link' && element.attribute('rel')?.toLowerCase() === 'canonical';
    const isShared = element.name === 'meta' && element.attribute('property')?.toLowerCase() === 'og:url';
    if (!isCanonical && !isShared) return [];
    const name = isCanonical ? 'href' : 'content';
    const written = element.attribute(name) ?? '';
    const address = /^(https?:\/\/[^/?#]+)(\/[^?#]*)?/i.exec(written);
    if (address === null)
      return valueEdit(page, element, name, relativePath(folderOf(page.base ?? ''), file));
    const path = (address[2] ?? '/').slice(1);
    const own = [page.file, page.file.replace(/(?:^|(?<=\/))index\.html$/, '')].find(
      (end) => path === end || path.endsWith(`/${end}`) || (end === '' && path.endsWith('/')),
    );
    const root = own === undefined ? null : path.slice(0, path.length - own.length);
    const text = root === null ? written : `${address[1]}/${root}${relativePath('', file)}`;
    return valueEdit(page, element, name, text);
  });
}

const KEPT = new Set([
  'header',
  'nav',
  'footer',
  'script',
  'style',
  'link',
  'template',
  'noscript',
  'dialog',
]);

/** What makes up the page's own content: that of its main element, else what is not furniture of the body. */
function contentOf(outline: Outline): Range[] {
  const main =
    outline.first('main') ?? outline.select('[role="main"], #main, #content, .main, .content')[0] ?? null;
  if (main?.endTag) return [{ start: main.startTag.end, end: main.endTag.start }];
  const { parts } = readMarks(outline.page);
  const inPart = rangesOf(parts);
  const kept = outline.elements.filter(({ name }) => KEPT.has(name) && name !== 'script' && name !== 'style');
  const starts = kept.map(({ start }) => start);
  const holdsKept = ({ startTag, end }: Outlined) => {
    for (let at = firstNotBelow(starts, startTag.end); at < kept.length && (starts[at] as number) < end; at++)
      if ((kept[at] as Outlined).end <= end) return true;
    return false;
  };
  const own = outline.elements.filter(
    (element) =>
      element.region === 'body' &&
      element.name !== 'body' &&
      !KEPT.has(element.name) &&
      isTopOfBody(element) &&
      !inPart.hold(element.start) &&
      !holdsKept(element),
  );
  return apart(own);
}

/** Ranges in order, those that share something made one: what is misplaced in a table stands beside it in the tree. */
function apart(all: readonly Range[]): Range[] {
  const ranges: { start: number; end: number }[] = [];
  for (const { start, end } of all.toSorted((a, b) => a.start - b.start)) {
    const last = ranges.at(-1);
    if (last !== undefined && start < last.end) last.end = Math.max(last.end, end);
    else ranges.push({ start, end });
  }
  return ranges;
}

function isTopOfBody({ element }: Outlined): boolean {
  const parent = element.parent as { readonly name?: string } | null;
  return parent?.name === 'body';
}

/** Takes the content out and puts the new heading in its place. */
function contentEdits(outline: Outline, gone: readonly Range[], { heading }: PageWords): Edit[] {
  const title = `<h1>${escapeMarkup(heading)}</h1>`;
  const [first, ...others] = gone;
  if (first === undefined) return [];
  const owner = outline.elements.find(({ startTag }) => startTag.end === first.start);
  if (owner === undefined) {
    // What ends without an end tag may reach over the white space before the next.
    const rest = others.map((range, index) => ({
      start: Math.max(range.start - leadOf(outline, range).length, (gone[index] as Range).end),
      end: range.end,
      text: '',
    }));
    return [{ ...first, text: title }, ...rest];
  }
  const lead = leadOf(outline, owner);
  return [{ ...first, text: lead === '' ? title : `${lead}${indentUnit(outline)}${title}${lead}` }];
}
