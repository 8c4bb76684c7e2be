/** Mends of a load order: tags that move, that wait for others, or that were forgotten. */

import type { Edit, FileEdit } from '../change/edit.ts';
import { groupBy } from '../group-by.ts';
import { relativePath } from '../mend/address.ts';
import {
  addAttribute,
  deferAsync,
  deferAsyncTitle,
  insertTag,
  moveTag,
  replaceAttribute,
  waitsWithoutAsync,
} from '../mend/script-tags.ts';
import { runPage } from '../order/page-run.ts';
import type { PageScript } from '../order/page-script.ts';
import { agreesWithAscii } from '../read/encoding.ts';
import type { Mend } from '../report.ts';
import type { NameContext } from './name-context.ts';
import type { ScriptTag } from './page-code.ts';
import type { Entry } from './run-list.ts';
import type { Lack, Sources } from './running-page.ts';
import { runsBefore } from './stated-needs.ts';

/** Pages of which one mend changes the tags; on more, `wire` is the way. */
const MOST_PAGES = 500;

/** What settles what is lacking, on all pages that lack it; `alike` is told as one finding. */
export function mendsFor(alike: readonly Lack[], context: NameContext, { bytesOf }: Sources): Mend[] {
  const [{ missing, file, span, meant }] = alike as [Lack];
  const mends: Mend[] = [];
  if (alike.length <= MOST_PAGES && missing.later !== null) {
    const moved = forAll(alike, (lack) => moveEdits(lack, context, bytesOf));
    if (moved !== null) mends.push(moved);
  } else if (alike.length <= MOST_PAGES && missing.absent === null) {
    const isSure = missing.leftOut.length === 1;
    for (const path of missing.leftOut.slice(0, 3)) {
      const inserted = forAll(alike, (lack) => insertEdits(lack, path, context, bytesOf));
      if (inserted !== null) mends.push({ ...inserted, sure: isSure });
    }
  }
  if (meant !== null) {
    const edits = [{ file, start: span.offset, end: span.offset + span.length, text: meant }];
    mends.push({ sure: false, title: `write ${meant}`, target: null, walk: [], edits });
  }
  return mends;
}

type Proposal = { readonly title: string; readonly edits: readonly FileEdit[] } | null;

/** One mend, if there is one for every page: what settles the first lack of a page settles the others. */
function forAll(alike: readonly Lack[], propose: (lack: Lack) => Proposal): Mend | null {
  const proposals = Array.from(groupBy(alike, ({ page }) => page.share.file).values(), ([lack]) =>
    propose(lack as Lack),
  );
  const [first] = proposals;
  if (!first || proposals.some((one) => one === null)) return null;
  const edits = proposals.flatMap((one) => one?.edits ?? []);
  return { sure: true, title: first.title, target: null, walk: [], edits };
}

type Runs = ScriptTag['runs'];

function moveEdits(lack: Lack, context: NameContext, bytesOf: Sources['bytesOf']): Proposal {
  const { page, user: index, makers, missing } = lack;
  const { share, list } = page;
  if (index === null || !agreesWithAscii(share.encoding)) return null;
  const user = list.entries[index]?.tag as number;
  const [maker] = makers.map((one) => list.entries[one]?.tag) as [number];
  if (maker === user) return null;
  const [userTag, makerTag] = [share.scripts[user] as ScriptTag, share.scripts[maker] as ScriptTag];
  const bytes = bytesOf(share.file);
  const here = (edits: readonly Omit<FileEdit, 'file'>[]): readonly FileEdit[] =>
    edits.map((edit) => ({ file: share.file, ...edit }));
  const isHolding = (change: (tags: Order) => void) => holdsWith(lack, change);
  const used = context.called(page, list.entries[index] as Entry);
  const made = missing.later;
  if (userTag.runs === makerTag.runs && userTag.runs !== 'async') {
    const moved = moveTag(bytes, share.encoding, makerTag, userTag);
    if (moved !== null && isHolding((tags) => tags.move(maker, user)))
      return { title: `move ${made} before ${used}`, edits: here(moved) };
  }
  const tagOf = (number: number) => share.scripts[number] as ScriptTag;
  const inTag = (number: number, name: string, text: string) => () =>
    replaceAttribute(bytes, tagOf(number), name, text);
  const waiting = (number: number, called: string | null): Change => ({
    isFor: tagOf(number).runs === 'async',
    number,
    to: 'deferred',
    edit: () => deferAsync(bytes, tagOf(number)),
    title: () => deferAsyncTitle(called ?? '', bytes, tagOf(number)),
  });
  const changes: readonly Change[] = [
    waiting(maker, made),
    {
      isFor: makerTag.runs === 'async' && !waitsWithoutAsync(bytes, makerTag),
      number: maker,
      to: 'at-once',
      edit: inTag(maker, 'async', ''),
      title: () => `load ${made} without async`,
    },
    waiting(user, used),
    {
      isFor: userTag.runs === 'at-once' && makerTag.runs === 'deferred',
      number: user,
      to: 'deferred',
      edit: () => addAttribute(bytes, userTag, 'defer'),
      title: () => `defer ${used} as well`,
    },
    {
      isFor: makerTag.runs === 'deferred' && makerTag.goal === 'script',
      number: maker,
      to: 'at-once',
      edit: inTag(maker, 'defer', ''),
      title: () => `load ${made} without defer`,
    },
  ];
  for (const { isFor, number, to, edit: make, title } of changes) {
    // Code of the page has no such attributes.
    const edit = isFor && isOfFile(tagOf(number)) ? make() : null;
    if (edit === null) continue;
    if (isHolding((tags) => tags.run(number, to))) return { title: title(), edits: here([edit]) };
    if (number !== user || makerTag.runs !== 'deferred') continue;
    // Then both wait, in the order of the page.
    const moved = moveTag(bytes, share.encoding, makerTag, userTag);
    const change = (tags: Order) => {
      tags.run(user, to);
      tags.move(maker, user);
    };
    if (moved !== null && isHolding(change))
      return { title: `${title()}, behind ${made}`, edits: here([...moved, edit]) };
  }
  return null;
}

function isOfFile({ source }: ScriptTag): boolean {
  return source.in === 'file' || source.in === 'host';
}

/** A tag that says when its script runs, and another time that it may say. */
interface Change {
  readonly isFor: boolean;
  /** Of its tag. */
  readonly number: number;
  readonly to: Runs;
  readonly edit: () => Edit | null;
  readonly title: () => string;
}

/** The scripts of a page in another order, or run at another time. */
interface Order {
  move(tag: number, before: number): void;
  run(tag: number, runs: Runs): void;
  insert(script: PageScript, before: number): void;
}

/** What a script that is put in has for the number of its tag. */
const PUT_IN = -1;

/** True where the name is there then, and nothing else is missing that was not before. */
function holdsWith({ page, missing, user, makers }: Lack, change: (order: Order) => void): boolean {
  const { list, run } = page;
  let scripts = list.entries.map((entry): PageScript & { tag: number } => entry);
  const startOf = (tag: number) => scripts.findIndex((one) => one.tag === tag);
  change({
    move(tag, before) {
      const moved = scripts.filter((one) => one.tag === tag);
      scripts = scripts.filter((one) => one.tag !== tag);
      scripts.splice(startOf(before), 0, ...moved);
    },
    run(tag, runs) {
      scripts = scripts.map((one) => (one.tag === tag ? { ...one, runs } : one));
    },
    insert(script, before) {
      scripts.splice(startOf(before), 0, { ...script, tag: PUT_IN });
    },
  });
  // A script that comes further than before may lack what it did not come to.
  const failing = new Set(run.missing.map(({ script }) => list.entries[script]?.tag));
  // What was chance may not fail for certain.
  const keyOf = (tag: number | undefined, name: string) => `${tag} ${name}`;
  const chances = new Set(
    run.missing.flatMap(({ script, step, isRace }) =>
      isRace ? keyOf(list.entries[script]?.tag, step.name) : [],
    ),
  );
  // A member is there where a script of the page adds it.
  const isAdded = (path: string) => path !== missing.name;
  const after = runPage(scripts, () => false, undefined, isAdded).missing;
  const isHolding = after.every(({ script, step, isRace }) => {
    const tag = scripts[script]?.tag;
    const isWorse = !isRace && chances.has(keyOf(tag, step.name));
    return step.name !== missing.name && failing.has(tag) && !isWorse;
  });
  if (!isHolding) return false;
  if (missing.statedBy === null) return true;
  const tagOf = (index: number) => list.entries[index]?.tag as number;
  const tags = makers.length === 0 ? [PUT_IN] : makers.map(tagOf);
  return tags.some((tag) => runsBefore(scripts, startOf(tag), startOf(tagOf(user as number))));
}

function insertEdits(
  lack: Lack,
  path: string,
  context: NameContext,
  bytesOf: (path: string) => Uint8Array,
): Proposal {
  const { page, user: index } = lack;
  const { share, list } = page;
  if (!agreesWithAscii(share.encoding) || share.base === null) return null;
  const user = index === null ? 0 : (list.entries[index]?.tag as number);
  const tag = share.scripts[user];
  if (tag === undefined) return null;
  const runs = tag.runs === 'at-once' ? 'at-once' : 'deferred';
  const facts = context.files.factsOf(path, 'script', bytesOf);
  if (facts === null) return null;
  if (index !== null && !holdsWith(lack, (order) => order.insert({ facts, runs }, user))) return null;
  const waits = runs === 'deferred' ? ' defer' : '';
  const markup = `<script src="${relativePath(share.base, path)}"${waits}></script>`;
  const edit = insertTag(bytesOf(share.file), tag, markup);
  const next =
    index === null ? 'the scripts of the page' : context.called(page, list.entries[index] as Entry);
  return edit && { title: `load ${path} before ${next}`, edits: [{ file: share.file, ...edit }] };
}
