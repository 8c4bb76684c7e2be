/** Selectors (Selectors 4), as far as it is certain what they do not find. */

interface AttributeTest {
  readonly name: string;
  /** Null where the attribute is only to be there. */
  readonly operator: string | null;
  readonly value: string;
}

/** What one element must be; pseudo-classes are passed over, so that more may match. */
export interface Compound {
  readonly tag: string | null;
  readonly ids: readonly string[];
  readonly classes: readonly string[];
  readonly attributes: readonly AttributeTest[];
}

/** Alternatives, each a row of compounds; null where nobody can tell what it finds. */
export type Selector = readonly (readonly Compound[])[];

const PART =
  /[#.](?<name>[\w-]+)|\[\s*(?<attribute>[\w-]+)\s*(?:(?<operator>[~|^$*]?=)\s*(?:"(?<double>[^"]*)"|'(?<single>[^']*)'|(?<bare>[\w-]+))\s*i?\s*)?\]|(?<tag>\*|[a-z][\w-]*)|::?[\w-]+(?:\([^()]*\))?/iy;

export function parseSelector(text: string): Selector | null {
  if (text.length > LONGEST || /\\|\(.*,|"[^"]*[,\s]|'[^']*[,\s]/.test(text)) return null;
  const alternatives = text.split(',').map((one) => one.trim());
  const rows = alternatives.map((one) => {
    const compounds = one.split(/\s*[>+~]\s*(?!=)|\s+/).map(parseCompound);
    return compounds.some((compound) => compound === null) ? null : (compounds as Compound[]);
  });
  return rows.some((row) => row === null) ? null : (rows as Compound[][]);
}

const LONGEST = 500;

function parseCompound(text: string): Compound | null {
  const ids: string[] = [];
  const classes: string[] = [];
  const attributes: AttributeTest[] = [];
  let tag: string | null = null;
  if (text === '') return null;
  for (let at = 0; at < text.length; ) {
    PART.lastIndex = at;
    const match = PART.exec(text);
    if (match === null) return null;
    const { name, attribute, operator, double, single, bare, tag: named } = match.groups ?? {};
    if (name !== undefined) (text[at] === '#' ? ids : classes).push(name);
    else if (attribute !== undefined)
      attributes.push({
        name: attribute.toLowerCase(),
        operator: operator ?? null,
        value: double ?? single ?? bare ?? '',
      });
    else if (named !== undefined) {
      if (at > 0) return null;
      tag = named === '*' ? null : named.toLowerCase();
    }
    at += match[0].length;
  }
  return { tag, ids, classes, attributes };
}

/** An element as a selector sees it; its classes and its id as written. */
export interface Selectable {
  readonly tag: string;
  attribute(name: string): string | null;
}

/** `isQuirky` where case makes no difference in ids and classes (Selectors 4, 6.6 and 6.7). */
export function matches(element: Selectable, compound: Compound, isQuirky: boolean): boolean {
  const { tag, ids, classes, attributes } = compound;
  if (tag !== null && element.tag !== tag) return false;
  const inCase = (text: string) => (isQuirky ? text.toLowerCase() : text);
  if (ids.length > 0) {
    const id = inCase(element.attribute('id') ?? '');
    if (ids.some((one) => inCase(one) !== id)) return false;
  }
  if (classes.length > 0) {
    const held = inCase(element.attribute('class') ?? '').split(/[\t\n\f\r ]+/);
    if (classes.some((one) => !held.includes(inCase(one)))) return false;
  }
  return attributes.every((test) => hasAttribute(element, test));
}

function hasAttribute(element: Selectable, { name, operator, value }: AttributeTest): boolean {
  const held = element.attribute(name)?.toLowerCase();
  if (held === undefined) return false;
  const wanted = value.toLowerCase();
  switch (operator) {
    case null:
      return true;
    case '=':
      return held === wanted;
    case '^=':
      return held.startsWith(wanted);
    case '$=':
      return held.endsWith(wanted);
    default:
      return held.includes(wanted);
  }
}
