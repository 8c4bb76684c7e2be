/** wrong-type: the host says of a file that it is something else. */
import { charsetIn, decoderFor } from '../../read/encoding.ts';
import { mediaType, sortOfFile } from '../../site/formats.ts';
import type { HostRule } from '../rule.ts';
import type { Visit } from '../visit.ts';

/** The JavaScript MIME types (MIME Sniffing 4.6): browsers take no other for a module. */
const JAVASCRIPT = /^(?:application|text)\/(?:x-)?(?:java|ecma)script$/;
const XML = /^(?:(?:text|application)\/xml|.*\+xml)$/;
const JSON_TYPE = /^(?:(?:text|application)\/json|.*\+json)$/;

/** Whether a type does for what a file is by its name; where it does not, browsers refuse it (true) or find out (false). */
function isFit(file: string, type: string): boolean | 'refused' {
  const wanted = mediaType(file);
  if (wanted === '' || type === wanted) return true;
  const orRefused = (fits: boolean) => fits || 'refused';
  switch (sortOfFile(file)) {
    case 'style':
      return 'refused';
    case 'script':
      return orRefused(JAVASCRIPT.test(type));
    case 'page':
      return orRefused(type === 'text/html' || type === 'application/xhtml+xml');
    case 'image':
      // Of images browsers look at the bytes, but for those that are text (MIME Sniffing 8.1).
      return wanted === 'image/svg+xml' ? 'refused' : type.startsWith('image/');
    case 'font':
      return /font|octet-stream/.test(type);
    case 'wasm':
      return 'refused';
    default:
      if (XML.test(wanted)) return XML.test(type);
      if (JSON_TYPE.test(wanted)) return JSON_TYPE.test(type);
      return !/^text\/html$/.test(type);
  }
}

function typeTold({ file, type, encoding }: Visit): { message: string; isRefused: boolean } | null {
  const essence = type.replace(/;.*$/s, '').trim().toLowerCase();
  const wanted = mediaType(file);
  if (essence === '')
    return wanted === ''
      ? null
      : { message: `no Content-Type comes with it; it is ${wanted}`, isRefused: false };
  const fits = isFit(file, essence);
  if (fits !== true)
    return { message: `it comes as ${essence}, and is ${wanted}`, isRefused: fits === 'refused' };
  const charset = charsetIn(type);
  const told = charset === undefined ? null : nameOf(charset);
  if (encoding === null || told === null || told === encoding) return null;
  // What the host says counts before all that stands in the file (HTML 13.2.3.1).
  return {
    message: `it comes as ${charset}, and is written in ${encoding}: letters beyond ASCII are garbled`,
    isRefused: true,
  };
}

/** The name of an encoding by any of its labels (Encoding 4.2); null for what is none, which browsers pass over. */
function nameOf(label: string): string | null {
  try {
    return decoderFor(label).encoding;
  } catch {
    return null;
  }
}

export const wrongType: HostRule = {
  name: 'wrong-type',
  grade: 'broken',
  summary: 'the host names another type',
  suffers:
    'Browsers refuse a stylesheet or a script of another type, save a page in the place of showing it, and garble letters where the encoding is another one. Found only where the host is asked: cravel visit.',
  wrong: 'css/main.css  as Content-Type: text/plain',
  right: 'css/main.css  as Content-Type: text/css',
  cause: 'rule',
  milder: [{ grade: 'fragile', when: 'browsers find out by themselves what it is' }],
  judgeVisit(visit) {
    if (visit.asks !== 'file') return null;
    const told = typeTold(visit);
    return told === null ? null : { message: told.message, grade: told.isRefused ? 'broken' : 'fragile' };
  },
};
