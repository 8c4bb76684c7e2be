/** Members of what another script makes, by one path each, whatever name they are reached by. */

/** `$().tides` and `$.fn.tides` are `jQuery.fn.tides`: what is given to all objects of a library, each of them has. */
export function memberPath(path: string): string {
  return path.replace(/^\$(?=[.(])/, 'jQuery').replace(/^(\w+)\(\)\./, '$1.fn.');
}

/** As people write it: `$(…).tides`. */
export function shownPath(path: string): string {
  return path.replace(/^jQuery\.fn\./, '$(…).');
}

/** What is done by who gives a name, or a member: the verb. */
export function makingOf(path: string): 'makes' | 'adds' {
  return path.includes('.') ? 'adds' : 'makes';
}
