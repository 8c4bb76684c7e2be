/** Makes code small by well-kept packages. */

import postcss from 'postcss';
import discardComments from 'postcss-discard-comments';
import normalizeWhitespace from 'postcss-normalize-whitespace';
import { minify } from 'terser';
import type { Shrinker } from '../core/packing/shrink.ts';

/** Names at the top of a script are other scripts' too, and stay; comments that say whose it is stay as well. */
export const shrinker: Shrinker = async (text, kind) => {
  if (kind === 'stylesheet') {
    const plugins = [discardComments(), normalizeWhitespace()];
    return (await postcss(plugins).process(text, { from: undefined, map: false })).css;
  }
  const { code = text } = await minify(text, {
    module: kind === 'module',
    ecma: 2020,
    format: { comments: 'some' },
    sourceMap: false,
  });
  return code;
};
