/** What stylesheets, images and fonts do on the page as it stands. */
import type { FontEffect, ImageEffect, RuleEffect, StyleEffect } from '../messages.ts';
import { plain, withoutStamp } from './addresses.ts';

/** Rules of one stylesheet that are tried on the page at most. */
const MOST_RULES = 5000;
/** What no element is at rest, or what stands for no element: a rule with it is tried without. */
const AT_TIMES =
  /::?(?:before|after|first-line|first-letter)|::[a-z-]+(?:\([^)]*\))?|:(?:hover|focus|focus-visible|focus-within|active|visited|link|any-link|target|checked|disabled|enabled|invalid|valid|user-invalid|user-valid|autofill|placeholder-shown|open|popover-open|modal|fullscreen|playing|paused)(?![\w-])/gi;

export function styleEffects(): StyleEffect[] {
  return sheets().map((sheet) => {
    const address = sheet.href === null ? null : withoutStamp(sheet.href);
    const isIdle = sheet.disabled || !matchMedia(sheet.media.mediaText || 'all').matches;
    const rules = rulesIn(sheet);
    if (rules === null) return { address, rules: null, matching: 0, isIdle };
    const matching = rules.slice(0, MOST_RULES).filter(matches).length;
    return { address, rules: rules.length, matching, isIdle };
  });
}

/** The selectors of a stylesheet, each with whether it matches something here. */
export function rulesAt(address: string): RuleEffect[] {
  const found = sheets().filter(({ href }) => href !== null && plain(href) === plain(address));
  const selectors = new Set(found.flatMap((sheet) => rulesIn(sheet) ?? []));
  return Array.from(selectors, (selector) => ({ selector, isMatching: matches(selector) }));
}

/** All that the page has, those that others import right behind them. */
export function sheets(): CSSStyleSheet[] {
  const withImports = (sheet: CSSStyleSheet): CSSStyleSheet[] => [
    sheet,
    ...[...(rulesOf(sheet) ?? [])].flatMap((rule) =>
      rule instanceof CSSImportRule && rule.styleSheet !== null ? withImports(rule.styleSheet) : [],
    ),
  ];
  return [...document.styleSheets].flatMap(withImports);
}

/** Null where another host's rules are kept from the page. */
export function rulesOf(sheet: CSSStyleSheet): CSSRuleList | null {
  try {
    return sheet.cssRules;
  } catch {
    return null;
  }
}

/** The selectors of all rules for elements, within others or not, as they are by themselves. */
function rulesIn(sheet: CSSStyleSheet): string[] | null {
  const rules = rulesOf(sheet);
  return rules === null ? null : selectorsIn(rules, '');
}

function selectorsIn(rules: CSSRuleList, around: string): string[] {
  return [...rules].flatMap((rule) => {
    const own = rule instanceof CSSStyleRule ? nested(rule.selectorText, around) : null;
    const within = rule instanceof CSSKeyframesRule ? undefined : (rule as Partial<CSSGroupingRule>).cssRules;
    return [
      ...(own === null ? [] : [own]),
      ...(within === undefined ? [] : selectorsIn(within, own ?? around)),
    ];
  });
}

/** A selector in another rule, as it is by itself (CSS Nesting 1, 3). */
function nested(selector: string, around: string): string {
  if (around === '') return selector;
  return selector.includes('&') ? selector.replaceAll('&', `:is(${around})`) : `:is(${around}) ${selector}`;
}

/** True where something on the page matches, at rest or as it is now. */
function matches(selector: string): boolean {
  return [atRest(selector), selector].some((one) => {
    try {
      return document.querySelector(one) !== null;
    } catch {
      // What is left may be no selector; the browser knew the rule's own.
      return false;
    }
  });
}

function atRest(selector: string): string {
  return (
    selector
      .replace(/\s*([>+~,])\s*|\s+(?=\))|(?<=\()\s+/g, '$1')
      .replace(AT_TIMES, '')
      // What is left of a selector that was nothing but such a word stands for any element.
      .replace(/(^|[\s,>+~(])(?=$|[\s,>+~)])/g, '$1*')
  );
}

export function imageEffects(): ImageEffect[] {
  return [...document.images].flatMap((image) => {
    const { currentSrc, src, naturalWidth, naturalHeight, complete } = image;
    const address = currentSrc || src;
    if (address === '' || address.startsWith('data:') || !complete) return [];
    const { width, height } = image.getBoundingClientRect();
    return [
      {
        address: withoutStamp(address),
        isThere: naturalWidth > 0,
        natural: [naturalWidth, naturalHeight] as const,
        shown: [Math.round(width), Math.round(height)] as const,
      },
    ];
  });
}

export function fontEffects(): FontEffect[] {
  return Array.from(document.fonts, ({ family, style, weight, status }) => ({
    family: family.replace(/^["']|["']$/g, ''),
    style: [weight === 'normal' || weight === '400' ? '' : weight, style === 'normal' ? '' : style]
      .filter((word) => word !== '')
      .join(' '),
    status,
  }));
}
