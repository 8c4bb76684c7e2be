/** Reads XML in events with places, by htmlparser2's tokenizer; values come as written, undecoded. */
import { decodeXML } from 'entities/decode';
import { Tokenizer } from 'htmlparser2';
import type { Holder } from './holder.ts';
import { byteOffsets } from './offsets.ts';
import type { Kind, Reference, Standing } from './reading.ts';
import type { Source } from './source.ts';

/** A value and its place in the file, in bytes. */
export interface PlacedValue {
  readonly value: string;
  readonly offset: number;
  readonly length: number;
}

export interface XmlEvents {
  /** An element's start tag; names are as written, prefixes included. */
  open(name: string, attributes: ReadonlyMap<string, PlacedValue>): void;
  /** Character data or a CDATA section inside `name`. */
  text(name: string, value: PlacedValue, isRaw: boolean): void;
  /** A processing instruction without its question marks. */
  instruction(value: PlacedValue): void;
}

/** Tells a whole file. Never throws; what is not well-formed is read as far as it makes sense. */
export function tellXml(source: Source, events: XmlEvents): void {
  const text = source.text(0, source.bytes.length);
  const offsetOf = byteOffsets(source, text);
  const open: string[] = [];
  /** How many of each element are open: most tags that close nothing are told at once. */
  const amounts = new Map<string, number>();
  let attributes = new Map<string, PlacedValue>();
  let element = '';
  let attribute = '';
  let valueStart = -1;
  let valueEnd = -1;
  const place = (start: number, end: number, isRaw = false): PlacedValue => {
    const written = text.slice(start, end);
    const offset = offsetOf(start);
    return { value: isRaw ? written : decodeXML(written), offset, length: offsetOf(end) - offset };
  };
  const opened = (isClosed: boolean) => {
    events.open(element, attributes);
    if (!isClosed) {
      open.push(element);
      amounts.set(element, (amounts.get(element) ?? 0) + 1);
    }
    attributes = new Map();
  };
  const tokenizer = new Tokenizer(
    { xmlMode: true, decodeEntities: false },
    {
      onopentagname(start, end) {
        element = text.slice(start, end);
      },
      onattribname(start, end) {
        attribute = text.slice(start, end);
        valueStart = -1;
      },
      onattribdata(start, end) {
        if (valueStart < 0) valueStart = start;
        valueEnd = end;
      },
      onattribend(_quote, end) {
        if (valueStart < 0) valueStart = valueEnd = end;
        if (!attributes.has(attribute)) attributes.set(attribute, place(valueStart, valueEnd));
      },
      onopentagend: () => opened(false),
      onselfclosingtag: () => opened(true),
      onclosetag(start, end) {
        const name = text.slice(start, end);
        if ((amounts.get(name) ?? 0) === 0) return;
        for (let closed = ''; closed !== name; ) {
          closed = open.pop() as string;
          amounts.set(closed, (amounts.get(closed) as number) - 1);
        }
      },
      ontext(start, end) {
        const name = open.at(-1);
        // A tag that the file breaks off is told as text from before the file.
        if (name !== undefined && start >= 0) events.text(name, place(start, end), false);
      },
      oncdata(start, end, endOffset) {
        const name = open.at(-1);
        // The span ends with the `]]` of the closing mark.
        if (name !== undefined) events.text(name, place(start, end - endOffset, true), true);
      },
      onprocessinginstruction: (start, end) => events.instruction(place(start, end, true)),
      onattribentity() {},
      oncomment() {},
      ondeclaration() {},
      onend() {},
      ontextentity() {},
    },
  );
  tokenizer.write(text);
  tokenizer.end();
}

/** A reference from a placed value, white space around it left out. */
export function referenceFrom(
  { value, offset, length }: PlacedValue,
  holder: Holder,
  kind: Kind,
  standing: Standing | null = null,
): Reference {
  const lead = /^[\t\n\r ]*/.exec(value)?.[0].length ?? 0;
  const trail = /[\t\n\r ]*$/.exec(value.slice(lead))?.[0].length ?? 0;
  const written = value.trim();
  return {
    kind,
    holder,
    offset: offset + lead,
    length: length - lead - trail,
    written,
    from: 'file',
    standing,
  };
}
