/** Checks a structure from outside against a class that says, by decorators, what it must look like. */
import { getMetadataStorage, type ValidationError, validateSync } from 'class-validator';
import { nearestNames } from '../site/near-names.ts';

/** Something wrong at a key of the structure. */
export interface Problem {
  readonly path: readonly string[];
  readonly message: string;
}

/**
 * `plain` as an instance of `Shape`, and what is wrong with it: wrong types, values and unknown keys. A key that is
 * wrong has its default.
 */
export function shape<T extends object>(
  Shape: new () => T,
  plain: unknown,
): { readonly value: T; readonly problems: readonly Problem[] } {
  const value = new Shape();
  if (plain === null || typeof plain !== 'object' || Array.isArray(plain)) {
    return { value, problems: [{ path: [], message: 'must be a list of keys and values' }] };
  }
  const known = keysOf(Shape);
  // A known key without a value is as good as none.
  const held = Object.entries(plain).filter(([key, value]) => value !== null || !known.includes(key));
  const lists = listsOf(Shape);
  // One text stands for a list of one.
  const whole = held.map(([key, one]) => [key, typeof one === 'string' && lists.has(key) ? [one] : one]);
  Object.assign(value, Object.fromEntries(whole));
  const errors = validateSync(value, { whitelist: true, forbidNonWhitelisted: true, stopAtFirstError: true });
  const defaults: object = new Shape();
  for (const { property } of errors) Reflect.set(value, property, Reflect.get(defaults, property));
  const written = new Set(held.map(([key]) => key));
  const problems = errors.flatMap((error) =>
    written.has(error.property)
      ? problemsIn(error, Shape)
      : [{ path: [error.property], message: `${error.property} is missing` }],
  );
  return { value, problems };
}

function problemsIn({ property, constraints = {} }: ValidationError, Shape: new () => object): Problem[] {
  const path = [property];
  if ('whitelistValidation' in constraints) {
    const near = nearestNames(property, keysOf(Shape));
    const hint = near === '' ? '' : `; did you mean ${near}?`;
    return [{ path, message: `${property} is not a known key${hint}` }];
  }
  return Object.values(constraints).map((message) => ({ path, message }));
}

/** The keys that a structure may have. */
export function keysOf(Shape: new () => object): string[] {
  return [...new Set(rulesOf(Shape).map(({ propertyName }) => propertyName))];
}

/** The keys whose values are lists of texts. */
function listsOf(Shape: new () => object): ReadonlySet<string> {
  return new Set(rulesOf(Shape).flatMap(({ propertyName, each }) => (each ? [propertyName] : [])));
}

function rulesOf(Shape: new () => object) {
  return getMetadataStorage().getTargetValidationMetadatas(Shape, '', false, false);
}
