/** empty: an empty address where something is loaded. */
import type { Rule } from '../rule.ts';

/** What loads what it names; an empty address loads nothing (HTML 2.4.1, valid non-empty URL). */
const ELEMENTS: ReadonlySet<string> = new Set([
  'img',
  'script',
  'link',
  'audio',
  'video',
  'source',
  'track',
  'embed',
  'input',
  'object',
]);
const ATTRIBUTES: ReadonlySet<string> = new Set(['src', 'href', 'data']);

export const empty: Rule = {
  name: 'empty',
  grade: 'broken',
  summary: 'an empty address where something is loaded',
  suffers: 'Nothing is loaded there.',
  wrong: '<script src=""></script>',
  right: '<script src="js/tides.js"></script>',
  concerns: { nothing: true },
  judge({ reference }) {
    const { written, holder } = reference;
    const loads = holder.syntax === 'markup' && ELEMENTS.has(holder.element) && ATTRIBUTES.has(holder.name);
    if (written.trim() !== '' || !loads) return null;
    return { message: 'the address is empty: nothing is loaded', target: null, walk: [], candidates: [] };
  },
};
