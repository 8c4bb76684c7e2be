/** Takes what changed into an open page: styles and images in place, all else by loading the page again. */
import type { PageNews } from '../messages.ts';
import { pathOn, STAMP, unescaped, withoutStamp } from './addresses.ts';
import { rulesOf, sheets } from './effects.ts';
import type { Log } from './log.ts';

/** Milliseconds that a page which is being left has for going. */
const LEAVING = 10_000;

const IMAGE = /\.(?:png|jpe?g|jfif|gif|webp|avif|svg|ico|bmp|apng)$/i;

export class Renewal {
  #run: string | null = null;
  /** The last change that the page has taken in, or was served after. */
  #change = 0;
  #leftAt = Number.NEGATIVE_INFINITY;

  constructor(
    readonly log: Log,
    readonly renewed: () => void,
  ) {
    addEventListener('beforeunload', () => {
      this.#leftAt = performance.now();
    });
  }

  take(news: PageNews): void {
    switch (news.is) {
      case 'hello':
        // What was served by another preview, or before a change that was missed, is out of date.
        if (this.#run !== null && (this.#run !== news.run || this.#change < news.change))
          return this.#reload();
        this.#run = news.run;
        this.#change = news.change;
        return;
      case 'reload':
        if (this.log.hasWorkers && news.pages.some(isThisPage)) this.#reload();
        return;
      default:
        this.#change = news.change;
        this.#changed(news.paths);
    }
  }

  #changed(paths: readonly string[]): void {
    if (paths.some(isThisPage)) return this.#reload();
    const own = paths.filter((path) => this.log.hasAskedFor(path));
    if (own.length === 0) return;
    const stamp = Date.now();
    const owners = new Map(own.map((path) => [path, ownersOf(path)]));
    const styles = own.filter((path) => owners.get(path)?.length !== 0);
    const images = own.filter((path) => !styles.includes(path) && IMAGE.test(path));
    if (styles.length + images.length < own.length) return this.#reload();
    for (const path of images) {
      swapImages(path, stamp);
      swapInStyles(path, stamp);
    }
    for (const owner of new Set([...owners.values()].flat())) swapStyles(owner, stamp, this.renewed);
    this.renewed();
  }

  /** Not while the page is being left, by a link or by the deck: that would keep it here (HTML, navigate). */
  #reload(): void {
    const wait = this.#leftAt + LEAVING - performance.now();
    if (wait <= 0) location.reload();
    else setTimeout(() => this.#reload(), wait);
  }
}

function isThisPage(path: string): boolean {
  const own = unescaped(location.pathname);
  const index = own.endsWith('/') ? `${own}index.html` : `${own}/index.html`;
  return path === own || path === index;
}

/** Null where it is another host's. */
function pathOf(address: string, base = document.baseURI): string | null {
  return pathOn(location.origin, address, base);
}

/** The elements that bring a stylesheet, or those that import it, into the page. */
function ownersOf(path: string): (HTMLLinkElement | HTMLStyleElement)[] {
  const importing = sheets().filter((sheet) => {
    const base = sheet.href ?? document.baseURI;
    const isImport = (rule: CSSRule) => rule instanceof CSSImportRule && pathOf(rule.href, base) === path;
    return [...(rulesOf(sheet) ?? [])].some(isImport);
  });
  // One that did not arrive has no sheet yet.
  const links = [...document.querySelectorAll<HTMLLinkElement>('link[rel~="stylesheet" i][href]')];
  return [...importing.flatMap(ownerOf), ...links.filter((link) => pathOf(link.href) === path)];
}

function ownerOf({ ownerNode, parentStyleSheet }: CSSStyleSheet): (HTMLLinkElement | HTMLStyleElement)[] {
  if (parentStyleSheet !== null) return ownerOf(parentStyleSheet);
  return ownerNode instanceof HTMLLinkElement || ownerNode instanceof HTMLStyleElement ? [ownerNode] : [];
}

/** The old one works until the new one is there. */
function swapStyles(owner: HTMLLinkElement | HTMLStyleElement, stamp: number, renewed: () => void): void {
  if (owner instanceof HTMLStyleElement) {
    if (owner.sheet !== null && [...owner.sheet.cssRules].some((rule) => rule instanceof CSSImportRule))
      owner.textContent = owner.textContent ?? '';
    return;
  }
  if (!owner.isConnected) return;
  const next = owner.cloneNode() as HTMLLinkElement;
  next.href = stamped(owner.href, stamp);
  const swap = () => {
    owner.remove();
    renewed();
  };
  next.addEventListener('load', swap, { once: true });
  next.addEventListener('error', swap, { once: true });
  owner.after(next);
}

function imagesAt(path: string): (HTMLImageElement | SVGImageElement | HTMLLinkElement)[] {
  const images = [...document.images].filter((image) => pathOf(image.currentSrc || image.src) === path);
  const drawn = [...document.querySelectorAll('image')].filter(
    (image) => pathOf(image.href.baseVal) === path,
  );
  const icons = [...document.querySelectorAll<HTMLLinkElement>('link[rel~="icon" i]')].filter(
    (link) => pathOf(link.href) === path,
  );
  return [...images, ...drawn, ...icons];
}

function swapImages(path: string, stamp: number): void {
  for (const image of imagesAt(path)) {
    if (image instanceof SVGImageElement) image.href.baseVal = stamped(image.href.baseVal, stamp);
    else if (image instanceof HTMLLinkElement) image.href = stamped(image.href, stamp);
    else swapImage(image, path, stamp);
  }
}

/** All its candidates that are the file: which one is taken stays the browser's choice. */
function swapImage(image: HTMLImageElement, path: string, stamp: number): void {
  const renew = (list: string) =>
    list.replace(/[^\s,]+/g, (address) => (pathOf(address) === path ? stamped(address, stamp) : address));
  const { parentElement: picture } = image;
  if (picture instanceof HTMLPictureElement)
    for (const source of picture.querySelectorAll('source')) source.srcset = renew(source.srcset);
  if (image.srcset !== '') image.srcset = renew(image.srcset);
  if (pathOf(image.src) === path) image.src = stamped(image.src, stamp);
}

/** Images that rules and elements have in their styles: browsers keep those for as long as the address stays the same. */
function swapInStyles(path: string, stamp: number): void {
  for (const sheet of sheets())
    for (const style of stylesIn(rulesOf(sheet) ?? []))
      swapIn(style, sheet.href ?? document.baseURI, path, stamp);
  for (const element of document.querySelectorAll<HTMLElement>('[style*="url("]'))
    swapIn(element.style, document.baseURI, path, stamp);
}

function* stylesIn(rules: Iterable<CSSRule>): Iterable<CSSStyleDeclaration> {
  for (const rule of rules) {
    const { style, cssRules } = rule as Partial<CSSStyleRule>;
    if (style !== undefined) yield style;
    if (cssRules !== undefined) yield* stylesIn(cssRules);
  }
}

function swapIn(style: CSSStyleDeclaration, base: string, path: string, stamp: number): void {
  for (const name of style) {
    const value = style.getPropertyValue(name);
    if (!value.includes('url(')) continue;
    const renewed = value.replace(/url\(\s*(["']?)(.*?)\1\s*\)/g, (whole, _quote, address: string) =>
      pathOf(address, base) === path ? `url("${stamped(new URL(address, base).href, stamp)}")` : whole,
    );
    if (renewed !== value) style.setProperty(name, renewed, style.getPropertyPriority(name));
  }
}

function stamped(address: string, stamp: number): string {
  const [, before = '', fragment = ''] = /^([^#]*)(.*)$/s.exec(withoutStamp(address)) ?? [];
  return `${before}${before.includes('?') ? '&' : '?'}${STAMP}=${stamp}${fragment}`;
}
