/** Addresses in one form: the same file is written with and without escapes, with queries and fragments. */

/** What a swap puts at the end of an address. */
export const STAMP = 'cravel-swapped';

/** An address as the page has it. */
export function withoutStamp(address: string): string {
  return address.replace(new RegExp(`[?&]${STAMP}=\\d+`), '');
}

/** Scheme, host and path, all escapes taken away; what is no address stays as it is. */
export function plain(address: string, base?: string): string {
  try {
    const { origin, pathname } = new URL(address, base);
    return origin + unescaped(pathname);
  } catch {
    return address;
  }
}

/** The path of an address on a host, all escapes taken away; null where it is another host's. */
export function pathOn(origin: string, address: string, base?: string): string | null {
  const whole = plain(address, base);
  return whole.startsWith(`${origin}/`) ? whole.slice(origin.length) : null;
}

export function unescaped(path: string): string {
  try {
    return decodeURIComponent(path);
  } catch {
    return path;
  }
}

/** The path of an address as it is written there; what is no address stays as it is. */
export function pathIn(address: string): string {
  try {
    return new URL(address).pathname;
  } catch {
    return address;
  }
}
