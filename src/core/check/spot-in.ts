/** Where in the file of a script, or in its page, something of its code stands. */
import type { Span } from '../read/reading.ts';
import { spotOfCode } from '../read/spot-of-code.ts';
import type { ScriptTag } from './page-code.ts';
import type { Entry } from './run-list.ts';
import type { ScriptFiles } from './script-files.ts';
import type { Share } from './share.ts';

/** `place` in UTF-16 units of the code. */
export function spotIn(
  share: Share,
  { file, tag }: Entry,
  place: { readonly start: number; readonly end: number },
  files: ScriptFiles,
  bytesOf: (path: string) => Uint8Array,
): { readonly file: string; readonly span: Span } {
  if (file !== null) return { file, span: spotOfCode(bytesOf(file), files.encodingOf(file), null, place) };
  const within = share.scripts[tag] as ScriptTag;
  return { file: share.file, span: spotOfCode(bytesOf(share.file), share.encoding, within, place) };
}
