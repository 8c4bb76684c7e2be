/** Reads an SVG file: the pictures, pages, styles and scripts that it names, and the ids that others may name. */
import { readCssSource } from './css.ts';
import { emptyReading } from './empty.ts';
import { holderOf } from './holder.ts';
import { presentationAttributes } from './html/holders.ts';
import type { Fault, Hint, Kind, Reading, Reference } from './reading.ts';
import { readScriptSource } from './script.ts';
import { makeSource, type Source } from './source.ts';
import { type PlacedValue, referenceFrom, tellXml } from './xml.ts';

const kinds: ReadonlyMap<string, Kind> = new Map<string, Kind>([
  ['a', 'page'],
  ['script', 'script'],
  ['image', 'image'],
  ['feImage', 'image'],
]);

/** Reads SVG 2 and 1.1 files. Never throws. */
export function readSvgSource(source: Source, encoding: string): Reading {
  const references: Reference[] = [];
  const hints: Hint[] = [];
  const folders: string[] = [];
  const faults: Fault[] = [];
  const anchors = new Set<string>();
  const take = (part: Reading, start: number) => {
    for (const reference of part.references)
      references.push({ ...reference, offset: reference.offset + start });
    for (const hint of part.hints) hints.push({ ...hint, offset: hint.offset + start });
    for (const folder of part.folders) folders.push(folder);
    for (const fault of part.faults) faults.push({ ...fault, offset: fault.offset + start });
  };
  const part = ({ offset, length }: PlacedValue) =>
    makeSource(source.bytes.subarray(offset, offset + length), source.decoder);
  tellXml(source, {
    open(name, attributes) {
      const id = attributes.get('id');
      if (id) anchors.add(id.value);
      for (const attribute of ['href', 'xlink:href']) {
        const value = attributes.get(attribute);
        if (value)
          references.push(
            referenceFrom(value, holderOf('markup', name, attribute), kinds.get(name) ?? 'image'),
          );
      }
      for (const attribute of ['style', ...presentationAttributes]) {
        const value = attributes.get(attribute);
        if (value?.value.includes('(')) take(readCssSource(part(value), encoding), value.offset);
      }
    },
    text(name, value) {
      if (name === 'style') take(readCssSource(part(value), encoding), value.offset);
      if (name === 'script') take(readScriptSource(part(value), encoding, false), value.offset);
    },
    instruction(value) {
      const href = /^xml-stylesheet\s(?:.*?\s)?href\s*=\s*["']([^"']*)/s.exec(value.value);
      if (href === null) return;
      const written = href[1] as string;
      const offset = value.offset + href[0].length - written.length;
      references.push(
        referenceFrom(
          { value: written, offset, length: written.length },
          holderOf('markup', 'xml-stylesheet', 'href'),
          'stylesheet',
        ),
      );
    },
  });
  references.sort((a, b) => a.offset - b.offset);
  return { ...emptyReading(encoding), references, hints, folders, faults, anchors };
}
