/** Compares the stylesheets of a library by what they say. */
import type { CssNode } from 'css-tree';
import generate from 'css-tree/generator';
import parse from 'css-tree/parser';
import { onceFor } from '../once-for.ts';

interface Said {
  /** Every declaration, with the selectors and conditions that it stands under. */
  readonly declarations: ReadonlySet<string>;
  /** Every selector, with the conditions that it stands under. */
  readonly selectors: ReadonlySet<string>;
}

/** What a stylesheet says, written in one way (CSS Syntax 3, 5.4). */
const saidBy = onceFor((bytes: Uint8Array): Said => {
  const said = { declarations: new Set<string>(), selectors: new Set<string>() };
  const options = { parseValue: false, parseCustomProperty: false, onParseError: () => {} };
  take(parse(new TextDecoder().decode(bytes), options), '', said);
  return said;
});

function take(node: CssNode, under: string, said: { declarations: Set<string>; selectors: Set<string> }) {
  if (node.type === 'StyleSheet' || node.type === 'Block')
    for (const one of node.children) take(one, under, said);
  else if (node.type === 'Declaration')
    said.declarations.add(`${under}${generate(node).replace(/\s+/g, '')}`);
  else if (node.type === 'Rule') {
    const list = node.prelude.type === 'SelectorList' ? node.prelude.children.toArray() : [node.prelude];
    for (const selector of list.map((one) => generate(one))) {
      said.selectors.add(under + selector);
      take(node.block, `${under}${selector} `, said);
    }
  } else if (node.type === 'Atrule' && node.block !== null) {
    const prelude = node.prelude === null ? '' : generate(node.prelude);
    take(node.block, `${under}@${node.name} ${prelude} `, said);
  }
}

/** How much of a part must stand in the whole: what is set for all of a sheet may differ. */
const MOST_OF_IT = 0.9;
/** How many of its selectors a sheet shares with another one that does the same in another way. */
const MUCH_OF_IT = 0.5;
/** How much both say word for word. */
const SOME_OF_IT = 0.3;

/** True where a page that loads `whole` gains next to nothing from `part`. */
export function isPartOf(part: Uint8Array, whole: Uint8Array): boolean {
  const [one, other] = [saidBy(part).declarations, saidBy(whole).declarations];
  return one.size > 0 && one.size < other.size && shared(one, other) >= MOST_OF_IT * one.size;
}

/** True for two that style the same things: a page loads one of them. */
export function areLooksOfOne(first: Uint8Array, second: Uint8Array): boolean {
  const [one, other] = [saidBy(first), saidBy(second)];
  const share = (some: ReadonlySet<string>, others: ReadonlySet<string>) =>
    shared(some, others) / Math.max(1, Math.min(some.size, others.size));
  return (
    share(one.selectors, other.selectors) >= MUCH_OF_IT ||
    share(one.declarations, other.declarations) >= SOME_OF_IT
  );
}

function shared(one: ReadonlySet<string>, other: ReadonlySet<string>): number {
  let amount = 0;
  for (const each of one) if (other.has(each)) amount++;
  return amount;
}
