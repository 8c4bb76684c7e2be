/** Classes (ECMA-262 15.7): what they extend, their methods and fields. */
import { evaluate, makeFunction } from './expressions.ts';
import { nameOfKey } from './patterns.ts';
import type { Running } from './running.ts';
import type { Scope } from './scope.ts';
import { execute } from './statements.ts';
import {
  type ClassNode,
  Code,
  type FunctionNode,
  joined,
  keyOf,
  openThing,
  UNDEFINED,
  UNKNOWN,
  type Value,
} from './values.ts';

export function makeClass(run: Running, node: ClassNode, outer: Scope): Code {
  const parent = node.superClass ? evaluate(run, node.superClass, outer) : null;
  if (parent !== null && node.superClass) run.follow(parent, node.superClass);
  const scope = run.newScope(outer);
  const proto = parent?.is === 'code' ? parent.prototype : parent === null ? null : openThing();
  const first = node.body.body.find((one) => one.type === 'MethodDefinition' && one.kind === 'constructor');
  const method = first?.type === 'MethodDefinition' ? (first.value as FunctionNode) : null;
  const made = new Code(method, scope, null, true, node, proto);
  made.parent = parent;
  const own = Object.assign(made, { home: made });
  if (node.id) scope.declare(node.id.name, true, own);
  run.met.add(own);
  fill(run, own, node, scope);
  return own;
}

function fill(run: Running, made: Code, { body }: ClassNode, scope: Scope): void {
  const fields: Code['fields'][number][] = [];
  for (const one of body.body) {
    if (one.type === 'StaticBlock') {
      withSelf(run, made, made, () => {
        const inner = run.newScope(scope);
        execute(run, one.body, inner);
      });
      continue;
    }
    const name = one.computed ? keyOf(evaluate(run, one.key, scope)) : nameOfKey(one.key);
    if (one.type === 'MethodDefinition') {
      if (one.kind === 'constructor') continue;
      const code = makeFunction(run, one.value as FunctionNode, scope, made);
      if (one.kind === 'get' && !one.static && name !== null) {
        made.prototype.getters.set(name, code);
        continue;
      }
      const owner = one.static ? made.properties : made.prototype.properties;
      if (name !== null) owner.set(name, one.kind === 'method' ? code : UNKNOWN);
    } else if (one.static) {
      const value = withSelf(run, made, made, () =>
        one.value ? evaluate(run, one.value, scope) : UNDEFINED,
      );
      if (name !== null) made.properties.set(name, value);
    } else fields.push({ name, node: one });
  }
  made.fields = fields;
}

/** Makes the fields of a new object. */
export function initialize(run: Running, code: Code, self: Value): void {
  for (const { name, node } of code.fields) {
    if (node.type !== 'PropertyDefinition') continue;
    const { value } = node;
    const made = withSelf(run, code, self, () => (value ? evaluate(run, value, code.scope) : UNDEFINED));
    if (self.is !== 'thing' || name === null) continue;
    self.properties.set(name, run.isSure ? made : joined(self.properties.get(name) ?? UNDEFINED, made));
  }
}

function withSelf<T>(run: Running, home: Code, self: Value, follow: () => T): T {
  const before = run.frame;
  const code = new Code(null, home.scope, self, true, null, null, home);
  run.frame = { self, code, isStrict: true, returned: null, isWaiting: false, isAsync: false };
  try {
    return follow();
  } finally {
    run.frame = before;
  }
}
