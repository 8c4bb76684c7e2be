/** What a file is by its first bytes (MIME Sniffing, 6 and 7). */
import { oneCharacterAByte } from '../bytes.ts';

/** What a file is, as far as its first bytes tell. */
export type Content = 'empty' | 'html' | 'svg' | 'image' | 'font' | 'media' | 'archive' | 'text' | 'other';

/** Bytes that are enough to tell. */
export const HEAD_SIZE = 512;

const magic: readonly (readonly [content: Content, pattern: RegExp])[] = [
  [
    'image',
    /^(?:\x89PNG\r\n\x1a\n|GIF8[79]a|\xff\xd8\xff|RIFF[\s\S]{4}WEBP|BM|\0\0[\x01\x02]\0|II\*\0|MM\0\*|\0\0\0[\s\S]ftyp(?:avi[fs]|hei[cfmsx]|mif1)|\xff\x0a|\0\0\0\x0cJXL )/,
  ],
  ['font', /^(?:wOFF|wOF2|\0\x01\0\0|OTTO|true|ttcf)|^[\s\S]{34}LP/],
  // A frame of MP3 begins much like a byte order mark (ff fe).
  [
    'media',
    /^(?:RIFF[\s\S]{4}(?:WAVE|AVI )|OggS|ID3|fLaC|\xff[\xe0-\xfd\xff]|\x1aE\xdf\xa3|[\s\S]{4}ftyp|MThd|FORM)/,
  ],
  ['archive', /^(?:PK[\x03\x05]|\x1f\x8b|7z\xbc\xaf|Rar!|%PDF)/],
];

/** `head`: the first bytes of the file; null where it cannot be read. */
export function contentOfHead(head: Uint8Array | null): Content {
  if (head === null) return 'text';
  if (head.length === 0) return 'empty';
  const text = oneCharacterAByte(head.subarray(0, HEAD_SIZE));
  for (const [content, pattern] of magic) if (pattern.test(text)) return content;
  const start = text.replace(/^\xef\xbb\xbf/, '').replace(/^(?:\s|<\?[\s\S]*?\?>|<!--[\s\S]*?-->)+/, '');
  if (/^(?:<!doctype svg[^>]*>\s*(?:<!--[\s\S]*?-->\s*)*)?<svg[\s/>]/i.test(start)) return 'svg';
  if (/^<(?:!doctype html|html|head|body|title|script|h1|div|p|a|table|meta|br)[\s/>]/i.test(start))
    return 'html';
  // A longer comment or doctype may hide what follows.
  if (/^<(?:!doctype svg|!--|\?xml)/i.test(start)) return 'svg';
  // UTF-16 text has zeros too, after its mark.
  return text.includes('\0') && !/^(?:\xff\xfe|\xfe\xff)/.test(text) ? 'other' : 'text';
}
