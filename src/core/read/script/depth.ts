/** How deeply the code of a script is nested: parsing and walking it takes the stack, which ends somewhere. */

import { tokenizer, tokTypes } from 'acorn';
import { Byte } from '../../bytes.ts';

/**
 * Brackets in each other at most. Bundles have some 60; at 500 the stack ends while the engine compiles a pattern, which
 * ends the whole program.
 */
const DEEPEST = 250;

export function isTooDeep(text: string): boolean {
  return roughDepth(text) > DEEPEST && depthOfCode(text) > DEEPEST;
}

/** Brackets in each other, those in strings and comments among them: worth it, since it is ten times as fast. */
function roughDepth(text: string): number {
  let depth = 0;
  let deepest = 0;
  for (let at = 0; at < text.length; at++) {
    const code = text.charCodeAt(at);
    // ( [ {
    if (code === Byte.OpenParenthesis || code === Byte.OpenBracket || code === Byte.OpenBrace) {
      if (++depth > deepest) deepest = depth;
    } else if (
      (code === Byte.CloseParenthesis || code === Byte.CloseBracket || code === Byte.CloseBrace) &&
      depth > 0
    )
      depth--;
  }
  return deepest;
}

function depthOfCode(text: string): number {
  let depth = 0;
  let deepest = 0;
  try {
    for (const { type } of tokenizer(text, { ecmaVersion: 'latest', allowHashBang: true })) {
      if (
        type === tokTypes.parenL ||
        type === tokTypes.bracketL ||
        type === tokTypes.braceL ||
        type === tokTypes.dollarBraceL
      ) {
        if (++depth > deepest) deepest = depth;
      } else if (type === tokTypes.parenR || type === tokTypes.bracketR || type === tokTypes.braceR) depth--;
    }
  } catch {
    // The parser says what is wrong there.
  }
  return deepest;
}
