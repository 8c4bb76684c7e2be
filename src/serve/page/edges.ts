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
    const by = element.getBoundingClientRect().right + scrollX - edge;
    if (by > SLACK && !isClipped(element)) found.push({ element, by });
  }
  // The one that is the reason has none within it that reaches as far.
  const innermost = found.filter(
    ({ element, by }) =>
      !found.some(
        (other) => other.element !== element && other.by >= by - SLACK && element.contains(other.element),
      ),
  );
  return innermost
    .sort((one, other) => other.by - one.by)
    .slice(0, MOST)
    .map(({ element, by }) => ({ element: nameOf(element), by: Math.round(by) }));
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
