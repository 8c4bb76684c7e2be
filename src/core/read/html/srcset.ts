/** The addresses of a `srcset` attribute (HTML 4.8.4.3.10, parse a srcset attribute). */

/** Spans `[start, end)` of the image candidate addresses in `text`, in order. */
export function srcsetSpans(text: string): [start: number, end: number][] {
  const spans: [number, number][] = [];
  let at = 0;
  for (;;) {
    while (at < text.length && (isSpace(text[at]) || text[at] === ',')) at++;
    if (at >= text.length) return spans;
    const start = at;
    while (at < text.length && !isSpace(text[at])) at++;
    let end = at;
    while (end > start && text[end - 1] === ',') end--;
    if (end > start) spans.push([start, end]);
    if (end === at) at = skipDescriptors(text, at);
  }
}

/** The offset just after the comma that ends the descriptors; a comma in parentheses does not. */
function skipDescriptors(text: string, start: number): number {
  let inParentheses = false;
  for (let at = start; at < text.length; at++) {
    if (text[at] === '(') inParentheses = true;
    else if (text[at] === ')') inParentheses = false;
    else if (text[at] === ',' && !inParentheses) return at + 1;
  }
  return text.length;
}

function isSpace(character: string | undefined): boolean {
  return (
    character === ' ' || character === '\n' || character === '\t' || character === '\r' || character === '\f'
  );
}
