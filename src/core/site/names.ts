/** Safe names for files and folders that get published. */

const SAFE = /^[a-z0-9]+(?:[-._][a-z0-9]+)*$/;

/** True for names of small letters, digits and single dashes, dots or underscores between them. */
export function isSafeName(name: string): boolean {
  return SAFE.test(name);
}

/** The nearest safe name: accents taken off, everything odd a dash. Empty where nothing is left. */
export function safeName(name: string): string {
  return name
    .normalize('NFKD')
    .replace(/\p{Mark}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9._]+/g, '-')
    .replace(/([-._])[-._]+/g, '$1')
    .replace(/^[-._]+|[-._]+$/g, '');
}
