/** Parses scripts (ECMA-262), and walks what comes out, without a step into the stack for what only leans to the left. */
import { type Node, Parser, type Program, type TokenType, tokTypes } from 'acorn';

interface Operator extends TokenType {
  /** How closely it binds; null for what is no binary operator. */
  readonly binop: number | null;
}

/** What the parser keeps to itself: the operators of a row of binary expressions (ECMA-262 13.5 to 13.13). */
interface Inside {
  readonly type: Operator;
  readonly value: string;
  readonly start: number;
  readonly startLoc: unknown;
  next(): void;
  raiseRecoverable(at: number, message: string): void;
  parseMaybeUnary(errors: null, isSawUnary: boolean, isIncrement: boolean, forInit: unknown): Node;
  buildBinary(start: number, loc: unknown, left: Node, right: Node, op: string, isLogical: boolean): Node;
}

/** A sum of a thousand words is a row, not a nest: the parser's own way takes a call for each of them. */
const RowParser = Parser.extend(
  (Base) =>
    class extends (Base as unknown as new (...all: unknown[]) => Inside) {
      parseExprOp(start: Node, startPos: number, startLoc: unknown, minPrec: number, forInit: unknown): Node {
        let left = start;
        for (;;) {
          const { type } = this;
          let prec = type.binop;
          if (prec === null || prec === undefined || (forInit && type === tokTypes._in) || prec <= minPrec)
            return left;
          const isLogical = type === tokTypes.logicalOR || type === tokTypes.logicalAND;
          const isCoalesce = type === tokTypes.coalesce;
          if (isCoalesce) prec = (tokTypes.logicalAND as Operator).binop as number;
          const op = this.value;
          this.next();
          const { start: rightPos, startLoc: rightLoc } = this;
          const operand = this.parseMaybeUnary(null, false, false, forInit);
          const right = this.parseExprOp(operand, rightPos, rightLoc, prec, forInit);
          left = this.buildBinary(startPos, startLoc, left, right, op, isLogical || isCoalesce);
          const now = this.type;
          const isMixed = isLogical
            ? now === tokTypes.coalesce
            : isCoalesce && (now === tokTypes.logicalOR || now === tokTypes.logicalAND);
          if (isMixed)
            this.raiseRecoverable(
              this.start,
              'Logical expressions and coalesce expressions cannot be mixed. Wrap either by parentheses',
            );
        }
      }
    } as never,
);

/** Throws the parser's error where the text is none by this goal. */
export function parseAs(text: string, sourceType: 'script' | 'module'): Program {
  return RowParser.parse(text, { ecmaVersion: 'latest', allowHashBang: true, sourceType });
}

/** The body of a function. Throws like {@link parseAs}. */
export function parseBody(text: string): Program {
  return RowParser.parse(text, { ecmaVersion: 'latest', allowReturnOutsideFunction: true });
}

/**
 * A file may be used either way: what is no script by the one goal may be one by the other (ECMA-262, 16). Throws the error
 * of the goal by which more of it can be parsed.
 */
export function parseScript(text: string, isModule: boolean): Program {
  try {
    return parseAs(text, isModule ? 'module' : 'script');
  } catch (error) {
    if (isModule) throw error;
    try {
      return parseAs(text, 'module');
    } catch (other) {
      throw isFurther(other, error) ? other : error;
    }
  }
}

/** What a parser's error says of the text, and where (UTF-16). */
export function saidBy(error: unknown, text: string): { readonly why: string; readonly at: number } {
  const { message, pos: at = 0 } = error as SyntaxError & { readonly pos?: number };
  if (at >= text.trimEnd().length) return { why: 'it ends before it is complete', at };
  // By what stands before it, await was a name (ECMA-262 15.8).
  if (/\bawait\s+$/.test(text.slice(Math.max(0, at - 100), at)))
    return { why: 'await works only in a function that is async', at };
  return { why: message.charAt(0).toLowerCase() + message.slice(1).replace(/ \(\d+:\d+\)$/, ''), at };
}

/** False for an error that has no place: the stack ended. */
function isFurther(one: unknown, other: unknown): boolean {
  const [at, otherAt] = [one, other].map((error) => (error as { readonly pos?: number }).pos);
  return at !== undefined && otherAt !== undefined && at > otherAt;
}

/** Names that are no expressions unless they stand in brackets. */
const NAMED: ReadonlySet<string> = new Set(['Property', 'MethodDefinition', 'PropertyDefinition']);

/** Tells every node, each before what is in it, in the order of the text. */
export function eachNode(program: Program, tell: (node: Node) => void): void {
  const waiting: Node[] = [program];
  for (let node = waiting.pop(); node !== undefined; node = waiting.pop()) {
    tell(node);
    const inside = childrenOf(node);
    for (let index = inside.length - 1; index >= 0; index--) waiting.push(inside[index] as Node);
  }
}

function childrenOf(node: Node): Node[] {
  const children: Node[] = [];
  const isPlainlyNamed = NAMED.has(node.type) && (node as Node & { computed?: boolean }).computed !== true;
  for (const [key, value] of Object.entries(node)) {
    if (value === null || typeof value !== 'object' || (isPlainlyNamed && key === 'key')) continue;
    if (Array.isArray(value)) {
      for (const one of value) if (isNode(one)) children.push(one);
    } else if (isNode(value)) children.push(value);
  }
  return children.length > 1 ? children.sort((a, b) => a.start - b.start) : children;
}

function isNode(value: unknown): value is Node {
  return typeof (value as { type?: unknown } | null)?.type === 'string';
}

/**
 * True for what the engine that this runs in compiles as a script. It takes a twentieth of a parser's time, and nothing of
 * it is ever run; false also where it is not allowed to compile, or where the engine is older than the script.
 */
export function compiles(text: string, isModule: boolean): boolean {
  try {
    new Function(isModule ? `"use strict";${text}` : text);
    // A function's body may return; a block of a class may not, and is strict besides.
    if (text.includes('return')) new Function(`(class { static {${text}\n} })`);
    return true;
  } catch {
    return false;
  }
}
