/** Makes a starter of a project: what may come along, and texts turned into blanks. */
import { parseDocument, stringify } from 'yaml';
import { fail } from '../errors.ts';
import { escapeMarkup } from '../page/page.ts';
import { rangesOf } from '../page/ranges.ts';
import { readFile } from '../read/read.ts';
import { SETTINGS_FILE, type Settings } from '../settings/settings.ts';
import { isMarkup, isText } from '../site/formats.ts';
import { MANIFEST } from './manifest.ts';
import { templateText } from './template.ts';

/** A text of the project that becomes a blank of the starter. */
export interface BlankText {
  readonly text: string;
  readonly blank: string;
}

/** Files whose text may hold a blank. */

export interface KeptStarter {
  readonly files: ReadonlyMap<string, Uint8Array>;
  /** How often each text became a blank. */
  readonly amounts: ReadonlyMap<string, number>;
}

/**
 * The files of a starter made from those of a project. A text is turned into its blank wherever a text file
 * holds it, as it stands or as markup writes it. Throws a `CravelError` where no file holds one.
 */
export function keepProject(
  files: ReadonlyMap<string, Uint8Array>,
  blanks: readonly BlankText[],
  settings: Settings,
  summary: string,
): KeptStarter {
  const kept = new Map<string, Uint8Array>();
  const amounts = new Map<string, number>(blanks.map(({ text }) => [text, 0]));
  for (const [path, bytes] of files) {
    if (path === SETTINGS_FILE) {
      kept.set(path, withoutOrigin(bytes));
      continue;
    }
    if (path === MANIFEST) continue;
    const turned = isText(path) || isTemplate(path) ? turnIntoTemplate(path, bytes, blanks, amounts) : null;
    if (turned === null) kept.set(path, bytes);
    else kept.set(`${path}.hbs`, turned);
  }
  const missed = blanks.find(({ text }) => amounts.get(text) === 0);
  if (missed !== undefined) throw fail('text-absent', missed.text);
  kept.set(MANIFEST, new TextEncoder().encode(manifestFor(blanks, settings, summary)));
  return { files: kept, amounts };
}

function isTemplate(path: string): boolean {
  return path.endsWith('.hbs');
}

/** Null where the file holds none of the texts, or is not UTF-8. */
function turnIntoTemplate(
  path: string,
  bytes: Uint8Array,
  blanks: readonly BlankText[],
  amounts: Map<string, number>,
): Uint8Array | null {
  let text: string;
  try {
    text = new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(bytes);
  } catch {
    return null;
  }
  const isInMarkup = isMarkup(path);
  // Longer texts first: a title may hold a shorter one.
  const forms = blanks
    .flatMap(({ text: plain, blank }) =>
      [...new Set(isInMarkup ? [escapeMarkup(plain), lightlyEscaped(plain), plain] : [plain])].map(
        (form) => ({
          form,
          plain,
          blank,
        }),
      ),
    )
    .sort((a, b) => b.form.length - a.form.length);
  // A file that is a template by its name would be filled in: it becomes one that gives the file back.
  if (!isTemplate(path) && !forms.some(({ form }) => text.includes(form))) return null;
  const isAddress = addressesIn(path, bytes);
  const escaped = forms.map(({ form }) => form.replace(/[\\^$.*+?()[\]{}|]/g, '\\$&'));
  // Braces of the file's own are no blanks; those and backslashes beside a blank would change what it means.
  const own = '[\\\\{]*\\{\\{[\\\\{]*\\}*';
  const blank = `([\\\\{]*)(${escaped.join('|')})(\\}*)|`;
  const pattern = new RegExp((escaped.length > 0 ? blank : '()()()') + own, 'g');
  const template = text.replace(pattern, (all, before = '', found = '', after = '', at: number) => {
    const form = forms.find((one) => one.form === found);
    const start = at + before.length;
    if (form === undefined) return templateText(all);
    if (isAddress(start, start + found.length)) return templateText(before) + found + templateText(after);
    amounts.set(form.plain, (amounts.get(form.plain) ?? 0) + 1);
    return `${templateText(before)}{{${form.blank}}}${templateText(after)}`;
  });
  return new TextEncoder().encode(template);
}

/** Tells whether a span of a file's text touches an address: what leads to a file must go on doing so. */
function addressesIn(path: string, bytes: Uint8Array): (start: number, end: number) => boolean {
  const spans: [start: number, end: number][] = [];
  const decoder = new TextDecoder('utf-8', { ignoreBOM: true });
  let [position, from] = [0, 0];
  const references = readFile(path, bytes)?.references ?? [];
  for (const { offset, length, written } of references.toSorted((a, b) => a.offset - b.offset)) {
    if (offset < from || /^[a-z][a-z0-9+.-]*:/i.test(written)) continue;
    position += decoder.decode(bytes.subarray(from, offset)).length;
    const end = position + decoder.decode(bytes.subarray(offset, offset + length)).length;
    spans.push([position, end]);
    [position, from] = [end, offset + length];
  }
  const addresses = rangesOf(spans.map(([start, end]) => ({ start, end })));
  return (start, end) => addresses.touch({ start, end });
}

/** As people write it in markup: quotes as they are. */
function lightlyEscaped(text: string): string {
  return text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');
}

/** What the project says of the starter that it came from is not the new one's. */
function withoutOrigin(bytes: Uint8Array): Uint8Array {
  const document = parseDocument(new TextDecoder().decode(bytes), { uniqueKeys: false });
  document.delete('starter');
  document.delete('blanks');
  return new TextEncoder().encode(document.toString({ lineWidth: 0 }));
}

function manifestFor(blanks: readonly BlankText[], settings: Settings, summary: string): string {
  const asked = Object.fromEntries(
    blanks.map(({ text, blank }) => [
      blank,
      { question: `What stands in place of "${text}"?`, default: defaultFor(blank, text) },
    ]),
  );
  return stringify(
    {
      summary,
      ...(settings.site === '.' ? {} : { site: settings.site }),
      ...(settings.places === undefined ? {} : { places: settings.places }),
      ...(settings['scripts-go'] === undefined ? {} : { 'scripts-go': settings['scripts-go'] }),
      ...(blanks.length === 0 ? {} : { blanks: asked }),
    },
    { lineWidth: 0 },
  );
}

/** A title is made from the folder's name; other blanks keep the text they had. */
function defaultFor(blank: string, text: string): string {
  return blank === 'title' ? '{{folder}}' : templateText(text);
}
