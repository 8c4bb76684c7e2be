/** What holds a reference, or what else a finding is about. */
import { detach } from './detach.ts';

/** Shared by all that are alike: one is never changed. */
export interface Holder {
  readonly syntax: 'markup' | 'css' | 'script' | 'json' | 'xml';
  /** The element of markup; the kind of file in JSON and XML; empty in stylesheets and scripts. */
  readonly element: string;
  /**
   * The attribute, or the name that a `meta` element gives; the function or at-rule; the call or statement; the key or
   * the element in a file of JSON or XML. Empty for an element as a whole.
   */
  readonly name: string;
  /** What it stands within that is a document, or a part of one, for itself. */
  readonly within: 'srcdoc' | 'template' | 'noscript' | null;
}

/** Most that are remembered; files may call their elements as they like. */
const MOST_KNOWN = 10_000;
const known = new Map<string, Holder>();

export function holderOf(
  syntax: Holder['syntax'],
  element: string,
  name: string,
  within: Holder['within'] = null,
): Holder {
  const key = `${syntax} ${within} ${element} ${name}`;
  let holder = known.get(key);
  if (holder === undefined) {
    if (known.size >= MOST_KNOWN) known.clear();
    holder = { syntax, element: detach(element), name: detach(name), within };
    known.set(key, holder);
  }
  return holder;
}

export function holderWithin(holder: Holder, within: Holder['within']): Holder {
  return holder.within === within ? holder : holderOf(holder.syntax, holder.element, holder.name, within);
}

/** True for a link of the page itself that a visitor follows. */
export function isLink({ syntax, element, name, within }: Holder): boolean {
  return syntax === 'markup' && element === 'a' && name === 'href' && within !== 'srcdoc';
}

/** True for an attribute of an element of markup, wherever it stands. */
export function isAttribute(holder: Holder, element: string, name: string): boolean {
  return holder.syntax === 'markup' && holder.element === element && holder.name === name;
}

const STARTS_WORKER = /^(?:new (?:Shared)?Worker|serviceWorker\.register)\(\)$/;

/** True for what a worker runs (HTML 10.2.6, Service Workers 3.4). */
export function isWorker({ holder: { syntax, name } }: { readonly holder: Holder }): boolean {
  return syntax === 'script' && STARTS_WORKER.test(name);
}

/**
 * True for a module specifier (HTML 8.1.6.2): workers and worklets are given addresses, although what those lead to are
 * modules, too (HTML 11.2.3).
 */
export function isSpecifier({ kind, holder }: { readonly kind: string; readonly holder: Holder }): boolean {
  return (
    kind === 'module' && holder.syntax === 'script' && holder.name !== 'addModule()' && !isWorker({ holder })
  );
}
