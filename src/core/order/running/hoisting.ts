/** The names that a function or a block declares, wherever in it they stand (ECMA-262 8.2). */
import type {
  AnyNode,
  ClassDeclaration,
  FunctionDeclaration,
  Node,
  Pattern,
  VariableDeclaration,
} from 'acorn';
import { onceFor } from '../../once-for.ts';

export interface Declared {
  /** Of `var`, in the whole of a function. */
  readonly variables: ReadonlySet<string>;
  /** Of functions in blocks: outside of strict code names of the whole function, too (ECMA-262 B.3.2). */
  readonly lifted: ReadonlySet<string>;
  readonly functions: readonly FunctionDeclaration[];
  /** Of `let`, `const` and `class`, at this level alone. */
  readonly lexical: readonly {
    readonly name: string;
    readonly isConstant: boolean;
    readonly start: number;
    readonly end: number;
  }[];
}

/** What a list of statements declares by itself, and its `var` names further in. */
export const declaredIn = onceFor((list: readonly AnyNode[]): Declared => {
  const variables = new Set<string>();
  const lifted = new Set<string>();
  const functions: FunctionDeclaration[] = [];
  const lexical: Declared['lexical'][number][] = [];
  for (const statement of list) {
    const declaration = exported(statement);
    if (declaration.type === 'FunctionDeclaration') functions.push(declaration as FunctionDeclaration);
    else if (declaration.type === 'ClassDeclaration') {
      const { id } = declaration as ClassDeclaration;
      if (id !== null) lexical.push({ name: id.name, isConstant: false, start: id.start, end: id.end });
    } else if (declaration.type === 'VariableDeclaration' && declaration.kind !== 'var') {
      for (const { id } of declaration.declarations)
        for (const name of namesIn(id))
          lexical.push({ name, isConstant: declaration.kind === 'const', start: id.start, end: id.end });
    } else findVariables(declaration, variables, lifted);
  }
  return { variables, lifted, functions, lexical };
});

function exported(statement: AnyNode): AnyNode {
  if (statement.type !== 'ExportNamedDeclaration' && statement.type !== 'ExportDefaultDeclaration')
    return statement;
  return (statement.declaration as AnyNode | null | undefined) ?? statement;
}

/** The statements of a statement that may declare `var` names, expressions apart. */
function findVariables(root: AnyNode, names: Set<string>, lifted: Set<string>): void {
  const waiting: AnyNode[] = [root];
  for (let node = waiting.pop(); node !== undefined; node = waiting.pop()) {
    if (node.type === 'VariableDeclaration') {
      if (node.kind === 'var')
        for (const { id } of node.declarations) for (const name of namesIn(id)) names.add(name);
    } else if (node.type === 'FunctionDeclaration') {
      if (node !== root && node.id !== null) lifted.add(node.id.name);
    } else if (/Statement$|^SwitchCase$|^CatchClause$/.test(node.type) && node.type !== 'ExpressionStatement')
      for (const value of Object.values(node)) {
        if (Array.isArray(value)) for (const one of value) waiting.push(one);
        else if (isNode(value)) waiting.push(value);
      }
  }
}

function isNode(value: unknown): value is AnyNode {
  return typeof (value as { type?: unknown } | null)?.type === 'string';
}

/** The names that a pattern binds (ECMA-262 8.6.2). */
export function namesIn(pattern: Pattern | null | undefined): string[] {
  switch (pattern?.type) {
    case 'Identifier':
      return [pattern.name];
    case 'ObjectPattern':
      return pattern.properties.flatMap((one) => namesIn(one.type === 'Property' ? one.value : one.argument));
    case 'ArrayPattern':
      return pattern.elements.flatMap(namesIn);
    case 'AssignmentPattern':
      return namesIn(pattern.left);
    case 'RestElement':
      return namesIn(pattern.argument);
    default:
      return [];
  }
}

/** True for code that says of itself that it is strict (ECMA-262 11.2.2). */
export function saysStrict(body: readonly Node[]): boolean {
  for (const statement of body as (Node & { directive?: string })[]) {
    if (statement.directive === undefined) return false;
    if (statement.directive === 'use strict') return true;
  }
  return false;
}

/** The `var` declarations that a `for` statement holds are names of the function, its lexical ones its own. */
export function isLexical(node: AnyNode | null | undefined): node is VariableDeclaration {
  return node?.type === 'VariableDeclaration' && node.kind !== 'var';
}
