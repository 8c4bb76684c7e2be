/** Checks the options of a call. */
import { fail } from '../core/errors.ts';
import { shape } from '../core/shape/shape.ts';

/** The options as an instance of `Options`; throws a `CravelError` that names the first bad one. */
export function checkOptions<T extends object>(Options: new () => T, raw: object): T {
  const { value, problems } = shape(Options, raw);
  const [first] = problems;
  if (!first) return value;
  const name = first.path.join('.');
  const option = `--${name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`)}`;
  throw fail('bad-option', option, first.message.replace(name, '').trim());
}
