/** element-left-out: a script uses an element that the page does not have. */
import type { ElementRule } from '../rule.ts';
import { whenOf } from './nobody-makes.ts';

export const elementLeftOut: ElementRule = {
  name: 'element-left-out',
  grade: 'broken',
  summary: 'uses an element that the page does not have',
  suffers: 'The script gets null in its place and stops there: nothing behind that runs.',
  wrong: "document.querySelector('#tikets').append(row);",
  right: "document.querySelector('#tickets').append(row);",
  judgeElement({ selector, page, is, isAfterLoad, near, others }) {
    if (is !== 'nowhere') return null;
    const meant = near === null ? '' : `; ${near} was probably meant`;
    const [first, ...more] = others;
    const elsewhere =
      first === undefined
        ? ''
        : `; ${first}${more.length === 0 ? ' has' : ` and ${more.length} more have`} it: let the script ask first whether it is there`;
    return { message: `${whenOf(isAfterLoad)}no element of ${page} is ${selector}${meant}${elsewhere}` };
  },
};
