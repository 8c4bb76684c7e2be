/** Steps as they are told, or as a function takes them that is called with something. */
import { type Argument, queryWith, selectorOf, withArguments } from './element-query.ts';
import { memberPath } from './member-path.ts';
import type { Step } from './steps.ts';

/** The need of the name that a called path begins with. */
export function rootOf(step: Step): Step {
  const name = step.name.replace(/\..*$/, '');
  return { ...step, does: 'needs', name, end: step.start + name.length };
}

/** The need of the member that is called. */
export function memberOf(step: Step): Step {
  const { length } = step.name.slice(step.name.lastIndexOf('.') + 1);
  return { ...step, does: 'needs', name: memberPath(step.name), start: step.end - length };
}

/** A step of a function that is called with these arguments; null for one of which nobody can tell what it does then. */
export function stepWith(step: Step, args: readonly Argument[]): Step | null {
  if (step.does === 'calls' && step.args !== undefined)
    return { ...step, args: step.args.map((one) => withArguments(one, args)) };
  if (step.does !== 'seeks' || step.query === null) return step;
  const query = queryWith(step.query, args);
  return query && { ...step, query, name: selectorOf(query) };
}

/** True for a step that depends on what its function is called with. */
export function takesArguments({ does, args, query }: Step): boolean {
  return (does === 'calls' && args !== undefined) || (does === 'seeks' && query !== null);
}
