/** Patterns for paths that people write: `*`, `**`, `?`, `[abc]` and `{a,b}`. */
import picomatch from 'picomatch';
import { RE2JS } from 're2js';
import { fail } from '../errors.ts';

/** What keeps a star from matching `.`, `..` and nothing: no step of a path is any of these. */
const DOTS = [
  ['(?:(?!(?:^|\\/)\\.{1,2}(?:\\/|$)).)*?', '.*?'],
  ['(?!(?:^|\\/)\\.{1,2}(?:\\/|$))', ''],
  ['(?!\\.{1,2}(?:\\/|$))', ''],
  ['(?=.)', ''],
] as const;
const LOOKAROUND = /\(\?<?[=!]/;

/**
 * Says of a path whether any of `globs` matches it, in time that grows with its length and no faster. Throws a
 * `CravelError` where one is no pattern.
 */
export function globMatcher(globs: readonly string[]): (path: string) => boolean {
  const matchers = globs.map(matcherFor);
  return (path) => matchers.some((matches) => matches(path));
}

/** True for what is a pattern, and no plain path. */
export function isGlob(text: string): boolean {
  return /[*?[\]{}]/.test(text);
}

function matcherFor(glob: string): (path: string) => boolean {
  if (/^!(?!\()/.test(glob)) {
    const matches = matcherFor(glob.slice(1));
    return (path) => !matches(path);
  }
  const pattern = compile(glob);
  return (path) => path === glob || pattern.matches(path);
}

/** A pattern of finite automata: unlike the engine's own, it never tries one thing after the other. */
function compile(glob: string): RE2JS {
  try {
    const { source } = picomatch.makeRe(glob, { dot: true });
    const plain = DOTS.reduce((text, [dots, star]) => text.replaceAll(dots, star), source);
    if (!LOOKAROUND.test(plain)) return RE2JS.compile(plain, RE2JS.DOTALL);
  } catch {
    // Too long, or not to be understood.
  }
  throw fail('bad-glob', glob.length > 60 ? `${glob.slice(0, 60)}…` : glob);
}
