/** Which of the files that lie beside each other are taken, and for what: one table for all who ask. */
import { isKeptByWindows } from './names.ts';
import { mayHoldSecrets } from './secrets.ts';

/** What is done with the files. */
export type Purpose = 'check' | 'keep' | 'adopt' | 'pack' | 'preview';

/** What a path is by its names. */
type Sort =
  | 'plain'
  | 'unnamable'
  | 'web'
  | 'well-known'
  | 'hidden'
  | 'secret'
  | 'leftover'
  | 'fetched'
  | 'litter'
  | Exclude<Stands, 'file'>;

/** What a path is on the disk: a link by where it leads, from the folder that is looked at. */
export type Stands = 'file' | 'link within' | 'link out' | 'device';

/** What belongs to other programs and is never part of a site. */
const LITTER = /^(?:\.git|\.hg|\.svn|\.cravel|node_modules|\.ds_store|thumbs\.db|desktop\.ini)$/;
/** What editors and operating systems leave beside the files. */
const LEFTOVER =
  /^(?:__macosx|\.bzr|cvs|\.idea|\.vscode|\.fleet|\.cache|\._.*|.*~|.*\.sw[op]|\.gitignore|\.gitattributes|\.gitmodules)$/;
/** What a program fetches, and pages load from where it lies. */
const FETCHED = /^bower_components$/;
/** Hidden files that hosts look for. */
const WEB = /^(?:\.htaccess|\.nojekyll|\.user\.ini)$/;

/** `take` where it comes along, `name` where it is there and never read, `leave` where it stays behind. */
type Verdict = 'take' | 'name' | 'leave';

// biome-ignore format: a table
const table: Readonly<Record<Sort, Readonly<Record<Purpose, Verdict>>>> = {
  plain:        { check: 'take',  keep: 'take',  adopt: 'take',  pack: 'take',  preview: 'take' },
  unnamable:    { check: 'take',  keep: 'take',  adopt: 'leave', pack: 'take',  preview: 'take' },
  web:          { check: 'take',  keep: 'take',  adopt: 'leave', pack: 'take',  preview: 'leave' },
  'well-known': { check: 'take',  keep: 'take',  adopt: 'leave', pack: 'take',  preview: 'take' },
  hidden:       { check: 'name',  keep: 'leave', adopt: 'leave', pack: 'leave', preview: 'leave' },
  secret:       { check: 'name',  keep: 'leave', adopt: 'leave', pack: 'leave', preview: 'leave' },
  leftover:     { check: 'name',  keep: 'leave', adopt: 'leave', pack: 'leave', preview: 'leave' },
  fetched:      { check: 'take',  keep: 'leave', adopt: 'leave', pack: 'take',  preview: 'take' },
  litter:       { check: 'name',  keep: 'leave', adopt: 'leave', pack: 'leave', preview: 'leave' },
  'link within': { check: 'take', keep: 'take',  adopt: 'leave', pack: 'take',  preview: 'take' },
  'link out':    { check: 'take', keep: 'leave', adopt: 'leave', pack: 'leave', preview: 'leave' },
  device:        { check: 'leave', keep: 'leave', adopt: 'leave', pack: 'leave', preview: 'leave' },
};

const words: Readonly<Record<Exclude<Sort, 'plain'>, string>> = {
  unnamable: 'no file can have such a name on Windows',
  web: 'hidden',
  'well-known': 'hidden',
  hidden: 'hidden',
  secret: 'it may hold a secret',
  leftover: "another program's",
  fetched: "another program's",
  litter: "another program's",
  'link within': 'a link',
  'link out': 'a link that leads out of the folder',
  device: 'neither a file nor a folder',
};

/** Why a path (a folder's ends in `/`) is left where it is, in a few words; null where it is taken. */
export function whyLeft(purpose: Purpose, path: string, stands: Stands = 'file'): string | null {
  const byName = whyLeftBy(purpose, sortOf(path));
  return byName !== null || stands === 'file' ? byName : whyLeftBy(purpose, stands);
}

function whyLeftBy(purpose: Purpose, sort: Sort): string | null {
  return sort === 'plain' || table[sort][purpose] === 'take' ? null : words[sort];
}

/** Why what is there is never read and never published: who refers to it is told. Null where it is. */
export function whyUnpublished(path: string): string | null {
  const sort = sortOf(path);
  return table[sort].check === 'name' ? (unpublished[sort] ?? null) : null;
}

const unpublished: Readonly<Partial<Record<Sort, string>>> = {
  hidden: 'what is hidden is not published',
  secret: 'what may hold a secret is not published',
  leftover: "another program's files are not published",
  litter: "another program's files are not published",
};

/** True for the name of what is never part of a site. */
export function isLitter(name: string): boolean {
  return LITTER.test(name.toLowerCase());
}

function sortOf(path: string): Sort {
  const steps = path.toLowerCase().replace(/\/$/, '').split('/');
  if (steps.some(isLitter)) return 'litter';
  if (mayHoldSecrets(path)) return 'secret';
  if (steps.some((step) => LEFTOVER.test(step))) return 'leftover';
  if (steps.some((step) => FETCHED.test(step))) return 'fetched';
  const at = steps.findIndex((step) => step.startsWith('.'));
  if (at < 0) return steps.some(isKeptByWindows) ? 'unnamable' : 'plain';
  if (steps[at] === '.well-known' && !steps.slice(at + 1).some((step) => step.startsWith('.')))
    return 'well-known';
  return at === steps.length - 1 && WEB.test(steps[at] as string) ? 'web' : 'hidden';
}
