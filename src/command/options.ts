/** Checks the options of a call against what its command is declared with. */
import { IsBoolean, IsIn, IsOptional, IsString, Matches } from 'class-validator';
import { fail } from '../core/errors.ts';
import { oneOf } from '../core/one-of.ts';
import { shape } from '../core/shape/shape.ts';
import { type Checked, type Declaration, flagOf, type Option, type Options } from './declaration.ts';

/** The options as they may be used; throws a `CravelError` that names the first bad one. */
export function checkOptions<D extends Declaration>(declaration: D, raw: object): Checked<D['options']> {
  const { value, problems } = shape(classOf(declaration.options), raw);
  const [first] = problems;
  if (!first) return value as Checked<D['options']>;
  const name = first.path.join('.');
  // Messages that are not ours begin with the name.
  const said = first.message.startsWith(name) ? first.message.slice(name.length) : first.message;
  throw fail('bad-option', flagOf(name), said.trim());
}

/** A class as class-validator wants it. */
function classOf(options: Options): new () => object {
  class Shape {
    constructor() {
      for (const [name, option] of Object.entries(options)) Reflect.set(this, name, startOf(option));
    }
  }
  for (const [name, option] of Object.entries(options))
    for (const decorate of decoratorsOf(option)) decorate(Shape.prototype, name);
  return Shape;
}

function startOf(option: Option): unknown {
  if (option.is === 'flag') return false;
  return option.is === 'list' ? [] : option.unlessSaid;
}

function decoratorsOf(option: Option): PropertyDecorator[] {
  switch (option.is) {
    case 'flag':
      return [IsBoolean()];
    case 'list':
      return [IsString({ each: true })];
    case 'choice': {
      const { choices } = option;
      return [IsOptional(), IsIn(choices, { message: `must be ${oneOf(choices)}` })];
    }
    default: {
      const { fits } = option;
      return [
        IsOptional(),
        IsString(),
        ...(fits === undefined ? [] : [Matches(fits.pattern, { message: `must be ${fits.words}` })]),
      ];
    }
  }
}
