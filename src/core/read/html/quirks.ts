/** Does a doctype put a page in quirks mode? (HTML 13.2.6.4.1) There a table does not close a paragraph. */

/** Public identifiers of HTML before the CSS era, all of whose vendors' and versions' DTDs are quirky. */
const OLD_PUBLIC =
  /^(?:\+\/\/silmaril|-\/\/(?:as|advasoft ltd|ietf|metrius|microsoft|netscape comm\. corp\.|o'reilly and associates|softquad(?: software)?|spyglass|sq|sun microsystems corp\.|w3o|webtechs)|-\/\/w3c\/\/dtd (?:html 3|html 4\.0 (?:frameset|transitional)|html experimental|w3 html))/;
const QUIRKY_PUBLIC = new Set([
  '-//w3o//dtd w3 html strict 3.0//en//',
  '-/w3c/dtd html 4.0 transitional/en',
  'html',
]);
const QUIRKY_SYSTEM = 'http://www.ibm.com/data/dtd/v11/ibmxhtml1-transitional.dtd';

const DOCTYPE =
  /^<!doctype\s*([^\s>]*)(?:\s+(?:public\s*(?:"([^">]*)"?|'([^'>]*)'?)\s*(?:"([^">]*)"?|'([^'>]*)'?)?|system\s*(?:"([^">]*)"?|'([^'>]*)'?)))?/i;

/** `text` is the whole declaration, from `<!doctype` on. */
export function isQuirky(text: string): boolean {
  const [, name = '', double, single, systemDouble, systemSingle, aloneDouble, aloneSingle] =
    DOCTYPE.exec(text) ?? [];
  const publicId = (double ?? single)?.toLowerCase();
  const systemId = (systemDouble ?? systemSingle ?? aloneDouble ?? aloneSingle)?.toLowerCase();
  if (name.toLowerCase() !== 'html' || systemId === QUIRKY_SYSTEM) return true;
  if (publicId === undefined) return false;
  const transitional = /^-\/\/w3c\/\/dtd html 4\.01 (?:frameset|transitional)\/\//.test(publicId);
  return QUIRKY_PUBLIC.has(publicId) || OLD_PUBLIC.test(publicId) || (systemId === undefined && transitional);
}
