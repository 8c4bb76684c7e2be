/** The map of a site as one page that needs nothing else: the drawing, and beside it whatever page is chosen. */
import type { SiteMap } from '../../core/check/site-map.ts';
import { sortOf } from '../../core/mapping/grouped.ts';
import { REPORT_MARK } from '../../core/read/own-report.ts';
import { forMarkup } from '../escape.ts';
import { pageHead } from '../page-head.ts';
import { sortNames } from '../sorts.ts';
import drawing from './drawing.css';
import { drawingOf } from './drawing.ts';
import style from './page.css';
import script from './page.script';

/** Where it is wider than the window it shrinks so far at most. */
const SMALLEST = 0.75;

export function* mapAsPage(map: SiteMap, title: string): Iterable<string> {
  const { width, height, content, grouped } = drawingOf(map, title);
  yield `${pageHead({ title, styles: [style, drawing], mark: REPORT_MARK })}<div class="drawing" id="drawing">
<svg style="width:min(100%,${width}px);min-width:${Math.round(width * SMALLEST)}px" viewBox="0 0 ${width} ${height}" role="group" aria-label="${forMarkup(title)}">
${content}
<g id="ways"></g>
</svg>
</div>
<aside aria-label="A page and its ways">
<label class="find">Find a page <kbd>/</kbd><input id="find" type="search" autocomplete="off"></label>
<label class="find">Show <select id="only"><option value="">all pages</option><option value="broken">pages with broken ways</option><option value="unreached">pages that no way leads to</option><option value="twins">pages that are called the same</option></select></label>
<div id="told" aria-live="polite"></div>
</aside>
<script type="application/json" id="data">`;
  yield* dataFor(map, grouped);
  yield `</script>
<script>
${script}</script>
</body>
</html>
`;
}

/** Pages and files by their numbers: each path stands there once. */
function* dataFor(
  { pages, sizes, twins }: SiteMap,
  { spots }: ReturnType<typeof drawingOf>['grouped'],
): Iterable<string> {
  const numberOf = new Map(pages.map(({ file }, index) => [file, index]));
  const files = [...sizes.keys()];
  const fileOf = new Map(files.map((file, index) => [file, index]));
  yield `{"files":${safe(files.map((file) => [file, sizes.get(file)]))},\n"sorts":${safe(sortNames)},\n"spots":${safe(
    spots.map(({ id, pages: own }) => [id, own.map(({ file }) => numberOf.get(file))]),
  )},\n"twins":${safe(twins.map((group) => group.map((file) => numberOf.get(file))))},\n"pages":[`;
  for (const [index, { file, title, clicks, leadsTo, loads, broken }] of pages.entries()) {
    const ways = leadsTo.map((path) => numberOf.get(path));
    const loaded = Array.from(loads, ([path, kind]) => [fileOf.get(path), sortOf(kind)]);
    yield `${index === 0 ? '' : ',\n'}${safe([fileOf.get(file), title, clicks, ways, loaded, broken])}`;
  }
  yield ']}';
}

/** JSON that can stand in a script element (HTML 4.12.1.3). */
function safe(value: unknown): string {
  return JSON.stringify(value).replaceAll('<', '\\u003c');
}
