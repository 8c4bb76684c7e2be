/** blocking-script: a script in the head that the page waits for. */
import type { WaitingRule } from '../rule.ts';

export const blockingScript: WaitingRule = {
  name: 'blocking-script',
  grade: 'misplaced',
  summary: 'a script in the head that the page waits for',
  suffers:
    'The visitor looks at an empty page until the script has arrived and run; it finds no element of the page.',
  wrong: '<head> … <script src="js/tides.js"></script>',
  right: '<script src="js/tides.js" defer></script>, or at the end of the body',
  judgeWaiting({ behind, together }) {
    const waits = 'the page waits for it';
    if (together === 'unknown')
      return `${waits}: put it at the end of the body together with the scripts behind it, in the order in which they are`;
    if (behind.length === 0) return `${waits}: add defer, or put it at the end of the body`;
    const others = inWords(behind);
    if (together === 'defer')
      return `${waits}: add defer to it and to ${others}, which runs behind it and needs it`;
    return `${waits}: put it at the end of the body together with ${others}, in this order, since that needs it`;
  },
};

function inWords(names: readonly string[]): string {
  const last = names.at(-1) ?? '';
  return names.length < 2 ? last : `${names.slice(0, -1).join(', ')} and ${last}`;
}
