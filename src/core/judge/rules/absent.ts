/** absent: the file that a reference names does not exist. */
import {
  type Candidate,
  hostlessCandidates,
  sameNameElsewhere,
  sameStemElsewhere,
  wayHome,
  writtenAsCalled,
} from '../../mend/candidates.ts';
import { nearSpellings } from '../../mend/near-spellings.ts';
import { isAbsent } from '../../resolve/locate.ts';
import type { Subject } from '../../resolve/subject.ts';
import { nameOf } from '../../site/inventory.ts';
import { explainStop, walk } from '../../site/walk.ts';
import { IN_SCRIPTS } from '../in-scripts.ts';
import { makeOrAdopt } from '../next.ts';
import type { Rule, Settlement, Verdict } from '../rule.ts';

/** An address whose host has no dot, or is called as a file is. */
const NO_HOST =
  /^\s*((?:https?:)?[/\\]{2})([^/\\?#.:@]+|[^/\\?#:@]+\.(?:html?|css|m?js|json|svg|png|jpe?g|gif|webp|ico))(?=[/\\?#]|$)/i;

export const absent: Rule = {
  name: 'absent',
  grade: 'broken',
  summary: 'no such file',
  suffers:
    'The visitor does not get the file: the picture is missing, the page stands without styles, the link ends at an error page.',
  wrong: '<img src="pier.svg">  while the file is images/pier.svg',
  right: '<img src="images/pier.svg">',
  cause: 'step',
  next: makeOrAdopt,
  milder: [IN_SCRIPTS],
  concerns: { absent: true, elsewhere: NO_HOST },
  judge(subject) {
    const { target, site } = subject;
    if (target.in === 'elsewhere') return judgeHost(subject);
    if (target.in !== 'site' || !isAbsent(site.inventory, target.path)) return null;
    const steps = walk(site.inventory, target.folder, target.segments);
    const stop = explainStop(site.inventory, target.folder, steps);
    const settlements = withScheme(subject);
    return {
      message: (stop ?? 'there is no such file') + besides(subject),
      target: target.path,
      walk: steps,
      candidates: settlements.length > 0 ? [] : candidatesFor(subject),
      settlements,
    };
  },
};

/** A file of the site, with what makes its first step the name of a host (RFC 3986, 3.2). */
function judgeHost(subject: Subject): Verdict | null {
  const [, start, host] = NO_HOST.exec(subject.reference.written) ?? [];
  const candidates = host === undefined ? [] : hostlessCandidates(subject);
  if (candidates.length === 0) return null;
  return {
    message: `${start} makes ${host} the name of a host, and no visitor finds one of that name`,
    target: null,
    walk: [],
    candidates,
  };
}

/** What makes most sense first: only the first kind of answer that there is. */
function candidatesFor(subject: Subject): Candidate[] {
  for (const find of [writtenAsCalled, sameNameElsewhere, nearSpellings, wayHome, sameStemElsewhere]) {
    const found = find(subject);
    // Written from the root again it would hold only where the site is published there.
    const isRooted = subject.site.published === null && /^\s*[/\\]/.test(subject.reference.written);
    if (found.length > 0) return isRooted ? found.map((one) => ({ ...one, relative: true })) : found;
  }
  return [];
}

const MAIL = /^[\w.+-]+@[\w-]+(?:\.[\w-]+)+(?:\?.*)?$/;

/** An address of the web or of mail that lacks its scheme (RFC 3986, 3.1; RFC 6068). */
function withScheme({ reference: { written, kind, offset, length, holder } }: Subject): Settlement[] {
  const text = written.trim();
  if (holder.syntax !== 'markup') return [];
  const scheme = /^www\.[\w-]+\.\S+$/i.test(text)
    ? 'https://'
    : kind === 'page' && MAIL.test(text)
      ? 'mailto:'
      : '';
  if (scheme === '') return [];
  const edit = { start: offset, end: offset, text: scheme };
  return length === 0 ? [] : [{ sure: true, title: `write ${scheme}${text}`, edit }];
}

/** A file of the whole name with another extension behind it: systems that hide extensions add one. */
function besides({ target, site }: Subject): string {
  if (target.in !== 'site' || !nameOf(target.path).includes('.')) return '';
  const found = ['txt', 'html', 'htm', 'css', 'js']
    .map((extension) => `${target.path}.${extension}`)
    .find((path) => site.inventory.files.has(path));
  return found === undefined ? '' : `; ${nameOf(found)} is there`;
}
