/** Safe names for files and folders that get published. */

const SAFE = /^[a-z0-9]+(?:[-._][a-z0-9]+)*$/;

/** Names that Windows has for devices, with any ending, and what it cannot have in a name at its end. */
const DEVICE = /^(?:con|prn|aux|nul|com[0-9\u00b9\u00b2\u00b3]|lpt[0-9\u00b9\u00b2\u00b3])(?:\.|$)/i;
const UNNAMABLE = /[<>:"|?*\\]|[. ]$/;

/** True for names of devices on Windows (Win32, "Naming Files, Paths, and Namespaces"). */
export function isDevice(name: string): boolean {
  return DEVICE.test(name);
}

/** True for names that no file or folder can have on Windows. */
export function isKeptByWindows(name: string): boolean {
  return isDevice(name) || UNNAMABLE.test(name);
}

/** True for names of small letters, digits and single dashes, dots or underscores between them. */
export function isSafeName(name: string): boolean {
  return SAFE.test(name) && !isKeptByWindows(name);
}

/** The nearest safe name: accents taken off, everything odd a dash. Empty where nothing is left. */
export function safeName(name: string): string {
  return tidied(name, /[^a-z0-9._]+/g);
}

/**
 * The nearest name that addresses take well: like {@link safeName}, but letters of other scripts stay, which need no more
 * than to be percent-encoded, and so do the extension and an underscore at the start.
 */
export function plainFileName(name: string): string {
  const [, stem = '', extension = ''] = /^(.+?)((?:\.[A-Za-z0-9]+)?)$/s.exec(name) ?? [];
  const start = /^_/.exec(stem)?.[0] ?? '';
  const plain = tidied(stem, /[^\p{Letter}\p{Mark}\p{Number}._]+/gu);
  return start + (plain === '' ? 'file' : plain) + extension.toLowerCase();
}

/** Letters that no accent can be taken off of, as their languages write them without. */
const LIGATURES: Readonly<Record<string, string>> = {
  ß: 'ss',
  æ: 'ae',
  œ: 'oe',
  ø: 'o',
  đ: 'd',
  ð: 'd',
  ł: 'l',
  þ: 'th',
  ı: 'i',
};

function tidied(name: string, odd: RegExp): string {
  const tidy = name
    .toLowerCase()
    .replace(/[ßæœøđðłþı]/g, (letter) => LIGATURES[letter] as string)
    .normalize('NFKD')
    // Accents of other scripts make other letters.
    .replace(/(?<=\p{Script=Latin}\p{Mark}*)\p{Mark}/gu, '')
    .normalize('NFC')
    .toLowerCase()
    .replace(odd, '-')
    .replace(/([-._])[-._]+/g, '$1')
    .replace(/^[-._]+|[-._]+$/g, '');
  return isKeptByWindows(tidy) ? tidy.replace(/^[a-z0-9]+/, '$&-1') : tidy;
}
