/** What reaches over the right edge of the page, which is why it scrolls sideways. */
import type { StickingOut } from '../messages.ts';

/** Elements that are named at most, and looked at at most. */
const MOST = 5;
const MOST_LOOKED_AT = 20_000;
/** CSS pixels that rounding makes. */
const SLACK = 1;

export function sticksOut(): StickingOut[] {
  const { documentElement: root, body } = document;
  const edge = root.clientWidth;
  // Where nothing can be scrolled to, nothing is in a visitor's way.
  if (body === null || root.scrollWidth <= edge + SLACK) return [];
  const found: { readonly element: Element; readonly by: number }[] = [];
  const all = body.getElementsByTagName('*');
  for (let index = 0; index < Math.min(all.length, MOST_LOOKED_AT); index++) {
    const element = all[index] as Element;
    const by = reachOf(element) + scrollX - edge;
    if (by > SLACK && !isClipped(element)) found.push({ element, by });
  }
  // The one that is the reason has none within it that reaches as far; those within come behind it.
  const within = new Map<Element, number>();
  const innermost = found.toReversed().filter(({ element, by }) => {
    for (
      let around = element.parentElement;
      around !== null && (within.get(around) ?? 0) < by;
      around = around.parentElement
    )
      within.set(around, by);
    return (within.get(element) ?? 0) < by - SLACK;
  });
  const told = new Map<string, number>();
  // Reversed once more: of those that reach as far the first is told first.
  for (const { element, by } of innermost.reverse().sort((one, other) => other.by - one.by))
    if (!told.has(nameOf(element))) told.set(nameOf(element), Math.round(by));
  return Array.from(told, ([element, by]) => ({ element, by })).slice(0, MOST);
}

/** How far right an element goes, with the text that flows out of its box. */
function reachOf(element: Element): number {
  // A break has no box to be told of; the text before it is its parent's.
  if (element.localName === 'br' || element.localName === 'wbr') return 0;
  const { left, right } = element.getBoundingClientRect();
  // What scrolls or cuts off by itself keeps its text in.
  return getComputedStyle(element).overflowX === 'visible'
    ? Math.max(right, left + element.scrollWidth)
    : right;
}

/** True within what scrolls or cuts off by itself. */
function isClipped(element: Element): boolean {
  for (
    let around = element.parentElement;
    around !== null && around !== document.body;
    around = around.parentElement
  )
    if (getComputedStyle(around).overflowX !== 'visible') return true;
  return false;
}

/** As in a stylesheet: `nav#main > ul.links`. */
function nameOf(element: Element): string {
  const parent = element.parentElement;
  const own = shortName(element);
  return parent === null || parent === document.body ? own : `${shortName(parent)} > ${own}`;
}

function shortName(element: Element): string {
  const id = element.id === '' ? '' : `#${element.id}`;
  const [first] = element.classList;
  return `${element.localName}${id}${first === undefined ? '' : `.${first}`}`;
}
