/** What a `link` element loads or leads to (HTML 4.6.7, link types). */

import { isOneSlip } from '../../site/near-names.ts';
import { onceForText } from '../detach.ts';
import type { Kind } from '../reading.ts';

const ICONS = [
  'icon',
  'apple-touch-icon',
  'apple-touch-icon-precomposed',
  'apple-touch-startup-image',
  'mask-icon',
];

/** Destinations of preloads (HTML 2.5.8, potential destination). */
const destinations: Readonly<Record<string, Kind>> = {
  audio: 'media',
  document: 'page',
  embed: 'media',
  fetch: 'data',
  font: 'font',
  image: 'image',
  object: 'media',
  script: 'script',
  style: 'stylesheet',
  track: 'media',
  video: 'media',
  worker: 'script',
};

/** The link types that a `rel` holds (HTML 4.6.1, a set of space-separated tokens). */
export function linkTypes(rel: string | null): ReadonlySet<string> {
  return typesIn(rel ?? '');
}

/** Pages say the same of their links over and over. */
const typesIn = onceForText(
  (text): ReadonlySet<string> => new Set(text.toLowerCase().split(/[\t\n\f\r ]+/)),
  1000,
);

const AHEAD = ['preconnect', 'dns-prefetch', 'prefetch', 'preload', 'modulepreload'];

/** True for a link that only prepares for what is loaded by something else. */
export function isLoadedAhead(rel: string | null): boolean {
  const types = linkTypes(rel);
  return !types.has('stylesheet') && AHEAD.some((type) => types.has(type));
}

/** By its `rel` tokens and `as`; null where a host is meant, not a resource. */
export function relationKind(rel: string | null, as: string | null): Kind | null {
  const tokens = linkTypes(rel);
  if (tokens.has('stylesheet')) return 'stylesheet';
  if (ICONS.some((token) => tokens.has(token))) return 'icon';
  if (tokens.has('manifest')) return 'manifest';
  if (tokens.has('modulepreload')) return 'module';
  if (tokens.has('preload')) return destinations[(as ?? '').toLowerCase()] ?? 'data';
  if (tokens.has('preconnect') || tokens.has('dns-prefetch')) return null;
  if (tokens.has('prefetch')) return destinations[(as ?? '').toLowerCase()] ?? 'page';
  return 'page';
}

/** True for a relation that is nearly `stylesheet`. */
export function isMisspeltStylesheet(rel: string): boolean {
  return [...linkTypes(rel)].some(
    (token) => token === 'style' || token === 'css' || isOneSlip(token, 'stylesheet'),
  );
}

/** Metadata names and properties whose content is an address. */
const named: Readonly<Record<string, Kind>> = {
  'msapplication-config': 'data',
  'msapplication-tileimage': 'image',
  'msapplication-square70x70logo': 'image',
  'msapplication-square150x150logo': 'image',
  'msapplication-square310x310logo': 'image',
  'msapplication-wide310x150logo': 'image',
  'msapplication-starturl': 'page',
  'og:audio': 'media',
  'og:audio:url': 'media',
  'og:image': 'image',
  'og:image:secure_url': 'image',
  'og:image:url': 'image',
  'og:url': 'page',
  'og:video': 'media',
  'og:video:url': 'media',
  thumbnail: 'image',
  'twitter:image': 'image',
  'twitter:image:src': 'image',
  'twitter:player': 'frame',
};

/** What the content of a `meta` with this `name`, `property` or `itemprop` is for; null for other content. */
export function metadataKind(name: string | null): Kind | null {
  const key = (name ?? '').trim().toLowerCase();
  return Object.hasOwn(named, key) ? (named[key] as Kind) : null;
}

/** The JavaScript MIME types (MIME Sniffing 4.6) and the two words that a script's type may say instead. */
const JAVASCRIPT =
  /^(?:application\/(?:ecmascript|javascript|x-ecmascript|x-javascript)|text\/(?:ecmascript|javascript(?:1\.[0-5])?|jscript|livescript|x-ecmascript|x-javascript))$/;

/** What the content or source of a `script` is (HTML 4.12.1.1, prepare the script element). */
export function scriptType(
  type: string | null,
): 'script' | 'module' | 'importmap' | 'speculationrules' | 'data' {
  const text = type ?? '';
  const essence = text.trim().toLowerCase();
  if (text === '' || JAVASCRIPT.test(essence)) return 'script';
  if (essence === 'module' || essence === 'importmap' || essence === 'speculationrules') return essence;
  return 'data';
}

const SCRIPT_TYPES = ['text/javascript', 'application/javascript', 'module'];
const NEARLY_SCRIPT =
  /^(?:(?:text|application)\/)?(?:x-)?(?:js|java|script|java-script|javascript|modules?)$/;

/** True for a type that has the word, or nearly that alone. */
export function isNearly(word: string, type: string): boolean {
  const essence = type.trim().toLowerCase();
  return essence.includes(word) || isOneSlip(essence, word);
}

/** A type without its parameters, in lower case. */
function essenceOf(type: string): string {
  return (/^[^;]*/.exec(type)?.[0] ?? '').trim().toLowerCase();
}

/** True for the type of a script that is none of JavaScript's, and nearly one: of other types it holds data. */
export function isNearScriptType(type: string): boolean {
  // Parameters are no part of the types that browsers run (HTML 4.12.1.1).
  const essence = essenceOf(type);
  return (
    NEARLY_SCRIPT.test(essence) ||
    SCRIPT_TYPES.includes(essence) ||
    SCRIPT_TYPES.some((one) => isOneSlip(essence, one))
  );
}

/** True for the type of a stylesheet that is not CSS's, and nearly so: others are for scripts that make CSS of it. */
export function isNearStyleType(type: string): boolean {
  const essence = essenceOf(type);
  if (essence === '' || essence === 'text/css') return false;
  return (
    /^(?:text|application)\/(?:x-)?(?:css3?|style|styles|stylesheet|style-?sheet|js|javascript|html|plain)$|^(?:css|stylesheet|style)$/.test(
      essence,
    ) || isOneSlip(essence, 'text/css')
  );
}
