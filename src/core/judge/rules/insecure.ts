/** insecure: something loaded without encryption into a page that is meant to have it. */
import { isLoaded } from '../../read/loaded.ts';
import type { Rule } from '../rule.ts';

const UNSAFE = /^\s*(http:)?[/\\]{2}/i;

export const insecure: Rule = {
  name: 'insecure',
  grade: 'fragile',
  summary: 'loaded over http, or over whatever the page came by',
  suffers:
    'Browsers refuse to load scripts and styles over http into an https page; what has no scheme fails from disk.',
  wrong: '<script src="http://cdn.gullhaven.example/buoys.js"></script>',
  right: '<script src="https://cdn.gullhaven.example/buoys.js"></script>',
  cause: 'rule',
  concerns: { elsewhere: UNSAFE },
  judge({ reference, target, site }) {
    if (target.in !== 'elsewhere' || !isLoaded(reference) || site.published?.origin.startsWith('http:'))
      return null;
    const unsafe = UNSAFE.exec(reference.written);
    if (unsafe === null) return null;
    const [, scheme] = unsafe;
    const lead = reference.written.length - reference.written.trimStart().length;
    const start = reference.offset + lead;
    const length = scheme?.length ?? 0;
    return {
      message:
        scheme === undefined
          ? 'without a scheme it is loaded as the page was'
          : 'it is loaded without encryption',
      target: null,
      walk: [],
      candidates: [],
      settlements: [
        { sure: false, title: 'write https:', edit: { start, end: start + length, text: 'https:' } },
      ],
    };
  },
};
