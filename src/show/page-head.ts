/** The start of a page that Cravel writes and that needs nothing else, as far as the start of its body. */

import { forMarkup } from './escape.ts';
import colours from './html/colours.css';

export interface Head {
  readonly title: string;
  /** Style sheets, besides that of the colours. */
  readonly styles: readonly string[];
  /** Stands right behind the doctype. */
  readonly mark?: string;
  /** Markup at the end of the head. */
  readonly more?: string;
}

export function pageHead({ title, styles, mark, more }: Head): string {
  const before = mark === undefined ? '' : `${mark}\n`;
  const after = more === undefined ? '' : `${more}\n`;
  return `<!doctype html>
${before}<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${forMarkup(title)}</title>
<style>
${[colours, ...styles].join('\n')}</style>
${after}</head>
<body>
`;
}
