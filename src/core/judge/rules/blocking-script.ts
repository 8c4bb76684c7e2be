/** blocking-script: a script in the head that the page waits for. */
import { addAttributeTo, elementAt } from '../../page/head.ts';
import type { Finding } from '../../report.ts';
import type { WaitingRule } from '../rule.ts';

const WAITS = 'the page waits for it';

export const blockingScript: WaitingRule = {
  name: 'blocking-script',
  grade: 'misplaced',
  summary: 'a script in the head that the page waits for',
  suffers:
    'The visitor looks at an empty page until the script has arrived and run; it finds no element of the page.',
  wrong: '<head> … <script src="js/tides.js"></script>',
  right: '<script src="js/tides.js" defer></script>, or at the end of the body',
  settle({ finding, tags }) {
    const element = isDeferrable(finding) ? elementAt(tags, finding.offset) : null;
    if (element === null) return null;
    return { sure: true, title: 'add defer', edits: [addAttributeTo(tags, element, 'defer')] };
  },
  isSettled: isDeferrable,
  judgeWaiting({ behind, together }) {
    if (together === 'stay')
      return `${WAITS}, and it writes into the page where it stands: let it fill an element of the page instead, and add defer`;
    if (together === 'unknown')
      return `${WAITS}: put it at the end of the body together with the scripts behind it, in the order in which they are`;
    if (behind.length === 0) return `${WAITS}: add defer, or put it at the end of the body`;
    const others = inWords(behind);
    const isOne = behind.length === 1;
    if (together === 'defer') {
      const which = isOne ? 'which runs behind it and needs it' : 'which run behind it and need it';
      return `${WAITS}: add defer to it and to ${others}, ${which}`;
    }
    const since = isOne ? 'since that needs it' : 'since they need it';
    return `${WAITS}: put it at the end of the body together with ${others}, in this order, ${since}`;
  },
};

/** What defers it changes nothing of what is found in time. */
function isDeferrable({ message }: Pick<Finding, 'message'>): boolean {
  return message.startsWith(`${WAITS}: add defer`);
}

function inWords(names: readonly string[]): string {
  const last = names.at(-1) ?? '';
  return names.length < 2 ? last : `${names.slice(0, -1).join(', ')} and ${last}`;
}
