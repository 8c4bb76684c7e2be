/** Pages whose scripts need what is there or not: what fails on them a browser says, and the check is to say the same. */
import { afterLoadCases } from './after-load-cases.ts';
import { elementCases } from './element-cases.ts';
import { type OrderCase, orderCases } from './load-order-cases.ts';
import { orderLines } from './load-order-lines.ts';
import { memberCases } from './member-cases.ts';

export const neededByScripts: Readonly<Record<string, readonly OrderCase[]>> = {
  'scripts in an order': orderCases,
  'lines of a script': orderLines,
  'elements of the page': elementCases,
  'members of what others make': memberCases,
  'once the page is there': afterLoadCases,
};

export function filesOf({ markup, files }: OrderCase): Readonly<Record<string, string>> {
  const start =
    '<!doctype html><html lang="en"><meta charset="utf-8"><title>x</title><link rel=icon href=data:,><body>\n';
  return {
    'index.html': markup.startsWith('<!') ? markup : `${start}${markup}</body></html>`,
    ...files,
  };
}
