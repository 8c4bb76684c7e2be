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
  const safe = name
    .normalize('NFKD')
    .replace(/\p{Mark}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9._]+/g, '-')
    .replace(/([-._])[-._]+/g, '$1')
    .replace(/^[-._]+|[-._]+$/g, '');
  return isKeptByWindows(safe) ? safe.replace(/^[a-z0-9]+/, '$&-1') : safe;
}
