/** before-its-element: a script uses an element that the page has only further down. */
import type { ElementRule } from '../rule.ts';

export const beforeItsElement: ElementRule = {
  name: 'before-its-element',
  grade: 'broken',
  milder: [{ grade: 'fragile', when: 'where the script has async: whether the element is there is chance' }],
  summary: 'uses an element before the page has it',
  suffers:
    'The script gets null in its place and stops there: the button does nothing, the list stays empty.',
  wrong: '<script src="js/tickets.js"></script> <button id="buy">',
  right: '<script src="js/tickets.js" defer></script> <button id="buy">',
  judgeElement({ selector, user, is, at }) {
    if (is === 'nowhere') return null;
    const place =
      selector === 'body' ? 'the page has no body yet' : `the page has it only further down, at ${at}`;
    if (is === 'racing')
      return {
        message: `${selector} is there only if ${user} comes late enough: ${place}, and nothing waits for a script with async`,
        grade: 'fragile',
      };
    return { message: `${selector} is not there yet: ${place}` };
  },
};
