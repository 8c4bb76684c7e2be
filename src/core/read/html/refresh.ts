/** The address of a `meta` refresh (HTML 4.2.5.3, shared declarative refresh steps). */

/** The span `[start, end)` of the address in the `content` attribute; null where it only reloads. */
export function refreshSpan(content: string): [start: number, end: number] | null {
  const time = /^[\t\n\f\r ]*(?:[0-9]+[0-9.]*|\.[0-9.]*)(?=[;,\t\n\f\r ])[\t\n\f\r ]*[;,]?[\t\n\f\r ]*/.exec(
    content,
  );
  if (time === null || time[0].length === content.length) return null;
  let start = time[0].length;
  // Step 11: `url`, white space, `=`, white space, each only if all before it is there.
  const label = /^[Uu][Rr][Ll][\t\n\f\r ]*=[\t\n\f\r ]*/.exec(content.slice(start));
  start += label?.[0].length ?? 0;
  const quote = content[start];
  if (quote !== '"' && quote !== "'") return [start, content.length];
  const close = content.indexOf(quote, start + 1);
  return [start + 1, close < 0 ? content.length : close];
}
