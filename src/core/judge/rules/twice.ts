/** twice: a page loads one thing two times. */
import { elementAt } from '../../page/head.ts';
import { removal } from '../../page/removal.ts';
import type { Tagged } from '../../page/tags.ts';
import { isAttribute } from '../../read/holder.ts';
import { linkTypes } from '../../read/html/relations.ts';
import { nameOf } from '../../site/inventory.ts';
import { otherBuildsOf } from '../../site/small-builds.ts';
import type { RepeatRule } from '../rule.ts';

export const twice: RepeatRule = {
  name: 'twice',
  grade: 'misplaced',
  summary: 'loaded twice by one page',
  suffers: 'A script that runs twice does everything twice; a stylesheet undoes what came between.',
  wrong: '<script src="js/tides.js"></script> … <script src="js/tides.js"></script>',
  right: '<script src="js/tides.js"></script>  once',
  settle({ finding, tags }) {
    const element = elementAt(tags, finding.offset);
    if (element === null) return null;
    const loads = ({ name }: Tagged) => name === 'style' || name === 'link';
    const address = element.attribute('href');
    const before = tags.elements.findLast(
      (one) => one.start < element.start && one.attribute('href') === address,
    );
    // A stylesheet that comes once more has its way over those between.
    const isBetween = tags.elements.some(
      (one) => loads(one) && before !== undefined && one.start > before.start && one.start < element.start,
    );
    const sure = element.name === 'script' || (before !== undefined && !isBetween);
    return { sure, title: 'take it out', edits: [removal(tags, element)] };
  },
  isSettled: ({ message }) => message.endsWith(' already'),
  // What runs or applies what it loads: having that twice does everything twice.
  counts({ holder, standing }) {
    // Where scripts run, nothing in a noscript does.
    if (standing?.inside === 'noscript') return false;
    // Browsers get a script with nomodule or the module that stands beside it, not both.
    if (isAttribute(holder, 'script', 'src')) return !('nomodule' in (standing?.attributes ?? {}));
    return (
      isAttribute(holder, 'link', 'href') && linkTypes(standing?.attributes?.rel ?? null).has('stylesheet')
    );
  },
  judgeRepeat: (found) => `this page loads ${found} already`,
  otherBuilds(found) {
    return /\.(?:js|css)$/.test(found) ? otherBuildsOf(found) : [];
  },
  judgeOtherBuild: (found, other) =>
    `this page loads ${other} already, and ${nameOf(found)} is the same in another build`,
};
