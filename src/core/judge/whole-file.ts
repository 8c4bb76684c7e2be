/** A remark about a file as a whole. */
import type { Remark } from './rule.ts';

export function wholeFile(
  file: string,
  message: string,
  target: string | null = file,
): Remark & { readonly file: string } {
  return { file, offset: 0, length: 0, holder: null, written: file, message, target };
}
