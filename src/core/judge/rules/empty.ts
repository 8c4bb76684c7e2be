/** empty: an empty address where something is loaded. */
import type { Rule } from '../rule.ts';

/** Holders that load what they name; an empty address loads nothing (HTML 2.4.1, valid non-empty URL). */
const LOADS = /^(?:img|script|link|audio|video|source|track|embed|input|object) (?:src|href|data)$/;

export const empty: Rule = {
  name: 'empty',
  grade: 'broken',
  summary: 'an empty address where something is loaded',
  suffers: 'Nothing is loaded there.',
  wrong: '<script src=""></script>',
  right: '<script src="js/tides.js"></script>',
  judge({ reference }) {
    if (reference.written.trim() !== '' || !LOADS.test(reference.holder)) return null;
    return { message: 'the address is empty: nothing is loaded', target: null, walk: [], candidates: [] };
  },
};
