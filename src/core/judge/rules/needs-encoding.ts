/** needs-encoding: characters that an address may hold only percent-encoded (RFC 3986, 2). */
import type { SiteView } from '../../resolve/subject.ts';
import { isNamedByOthers, isOddName } from '../../site/odd-names.ts';
import { walk } from '../../site/walk.ts';
import type { Rule } from '../rule.ts';

/** What stands in no address (RFC 3986, 2); of a fragment browsers make sense by themselves. */
const ODD = /[^!-~]|%(?![0-9a-f]{2})/i;

function isChangeable(path: string, { places }: SiteView): boolean {
  return !isNamedByOthers(path, places) && path.split('/').some(isOddName);
}

export const needsEncoding: Rule = {
  name: 'needs-encoding',
  grade: 'fragile',
  summary: 'a space, a letter beyond ASCII or a stray %',
  suffers: 'Browsers guess what is meant; feeds, mail programs and some hosts cut the address off there.',
  wrong: '<img src="images/north pier.svg">',
  right: '<img src="images/north%20pier.svg">',
  next: {
    shown: 'cravel move --safe-names',
    isBetter: true,
    after: ({ target }) => (target?.split('/').some(isOddName) ? 'cravel move --safe-names' : null),
  },
  concerns: { unplain: ODD },
  judge({ reference, target, found, site }) {
    if (target.in !== 'site' || found === null) return null;
    const [odd] = ODD.exec(reference.written.trim().replace(/#.*/s, '')) ?? [];
    if (odd === undefined) return null;
    const what = odd === ' ' ? 'a space' : odd === '%' ? 'a % that begins no escape' : odd;
    return {
      message: `${what} is written percent-encoded in an address`,
      target: target.path,
      walk: walk(site.inventory, target.folder, target.segments),
      // A name that is easily written wrong is better changed than encoded.
      candidates: [{ path: target.path, fragment: null, sure: !isChangeable(target.path, site) }],
    };
  },
};
