/** Says where and why a text is no JSON (ECMA-404), in words that do not depend on the engine. */
import { parseExpressionAt, type Token, tokenizer, tokTypes } from 'acorn';

/** What is wrong, and where it stands in the text. */
export interface JsonFault {
  readonly start: number;
  readonly end: number;
  readonly detail: string;
}

/** JSON is nearly a part of ECMAScript: what is none there is told by its parser, else by the first token. */
export function jsonFault(text: string): JsonFault {
  try {
    const { end } = parseExpressionAt(text, 0, { ecmaVersion: 'latest' });
    const rest = /\S/.exec(text.slice(end));
    return (
      tokenFault(text) ??
      (rest === null
        ? { start: end, end, detail: 'it is no JSON' }
        : { start: end + rest.index, end: end + rest.index + 1, detail: 'something follows its end' })
    );
  } catch (error) {
    const { pos = 0 } = error as SyntaxError & { pos?: number };
    const isOver = pos >= text.trimEnd().length;
    const detail = isOver
      ? 'it ends before it is complete'
      : `${text.slice(pos, pos + 1)} is not expected here`;
    return { start: pos, end: Math.min(pos + 1, text.length), detail };
  }
}

/** The first thing that ECMAScript has and JSON has not. */
function tokenFault(text: string): JsonFault | null {
  const comments: JsonFault[] = [];
  const onComment = (_isBlock: boolean, _text: string, start: number, end: number) =>
    void comments.push({ start, end, detail: 'JSON has no comments' });
  let before: Token | null = null;
  try {
    for (const token of tokenizer(text, { ecmaVersion: 'latest', onComment })) {
      if (comments[0] !== undefined) return comments[0];
      const { start, end } = token;
      const detail = detailOf(token, before, text.slice(start, end));
      if (detail !== null) return { start, end, detail };
      before = token;
    }
  } catch {
    return null;
  }
  return comments[0] ?? null;
}

function detailOf({ type }: Token, before: Token | null, written: string): string | null {
  if (type === tokTypes.string) return written.startsWith('"') ? null : 'JSON has double quotes only';
  if ((type === tokTypes.braceR || type === tokTypes.bracketR) && before?.type === tokTypes.comma)
    return `JSON has no comma before ${written}`;
  if (type === tokTypes.name) return `${written} stands in no quotes`;
  return null;
}
