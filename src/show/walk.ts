/** The steps of a walk in words. */
import type { Step } from '../core/site/walk.ts';

/** `images/`, `up to css/`, `out of the site` */
export function stepInWords({ step, name, found }: Step): string {
  if (step !== 'out') return name;
  return found ? `up to ${name}` : 'out of the site';
}
