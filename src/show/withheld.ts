/** Why a mend was not made. */
import type { Withheld } from '../core/mending/mending.ts';
import { visible } from './escape.ts';

export function whyWithheld({ finding, brings }: Withheld): string {
  return finding === brings
    ? 'it would not settle it'
    : `it would bring ${brings.rule} in ${visible(brings.file)}: ${visible(brings.message)}`;
}
