/** What a host is asked once a site is published: for all that was packed, and for what it should not answer. */

import type { Visit } from '../judge/visit.ts';
import { encodePath } from '../mend/address.ts';
import { INDEX } from '../site/formats.ts';
import { folderOf, nameOf } from '../site/inventory.ts';

export interface Question {
  readonly asks: Visit['asks'];
  readonly file: string;
  readonly address: string;
}

/** What people leave on hosts, by path from the root of the site. */
const PRIVATE = [
  '.git/HEAD',
  '.git/config',
  '.svn/entries',
  '.hg/requires',
  '.env',
  '.htpasswd',
  '.DS_Store',
  '.cravel/',
  'cravel.yaml',
  'package.json',
  'index.html~',
  'index.html.bak',
  'index.html.orig',
  'site.zip',
  'backup.zip',
  'site.tar.gz',
];
/** Of what stayed behind when the site was packed, so many are asked for. */
const MOST_PRIVATE = 40;

/** `base` ends in `/`. Pages of folders are asked for as visitors do, by the folder. */
export function fileQuestion(file: string, base: string): Question {
  const way = nameOf(file) === INDEX ? folderOf(file) : file;
  return { asks: 'file', file, address: addressOf(way, base) };
}

/** `left`: what of the project was not packed; `word`: a name that nothing has. */
export function otherQuestions(
  files: readonly string[],
  left: readonly string[],
  base: string,
  word: string,
): Question[] {
  const known = new Set(files);
  const unpublished = [...new Set([...PRIVATE, ...left])].filter((path) => !known.has(path));
  const asks = (kind: Visit['asks'], file: string): Question => ({
    asks: kind,
    file,
    address: addressOf(file, base),
  });
  const turned = files.map(inOtherCase).find((path) => path !== null && !known.has(path));
  return [
    asks('invented', `${word}.html`),
    ...unpublished.slice(0, PRIVATE.length + MOST_PRIVATE).map((path) => asks('private', path)),
    ...(turned === undefined || turned === null ? [] : [asks('letter-case', turned)]),
    ...hostQuestions(base),
  ];
}

/** Without encryption, and by the host's other name. */
function hostQuestions(base: string): Question[] {
  const { protocol, hostname } = new URL(base);
  const questions: Question[] = [];
  if (protocol === 'https:') {
    const plain = new URL(base);
    plain.protocol = 'http:';
    questions.push({ asks: 'plain-http', file: INDEX, address: plain.href });
  }
  const isName = /^[a-z0-9-]+(?:\.[a-z0-9-]+)+$/i.test(hostname) && !/^[\d.]+$/.test(hostname);
  if (isName) {
    const other = new URL(base);
    other.hostname = hostname.startsWith('www.') ? hostname.slice(4) : `www.${hostname}`;
    // A third step makes no other name of the same site.
    const isPair = hostname.startsWith('www.') || hostname.split('.').length === 2;
    if (isPair) questions.push({ asks: 'other-name', file: INDEX, address: other.href });
  }
  return questions;
}

function addressOf(path: string, base: string): string {
  return base + encodePath(path);
}

/** The same name in other letters; null where it has none. Pages of folders are asked for by the folder, and stay. */
function inOtherCase(path: string): string | null {
  if (nameOf(path) === INDEX) return null;
  const turned = path.replace(/[a-z]+/gi, (letters) =>
    letters === letters.toUpperCase() ? letters.toLowerCase() : letters.toUpperCase(),
  );
  return turned === path ? null : turned;
}
