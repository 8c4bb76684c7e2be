/** without-effect: something that was meant to load, lead or style, and never does. */
import { moveImport, quoteImport, straightQuotes } from '../../mend/style-edits.ts';
import { holderOf } from '../../read/holder.ts';
import { isPage } from '../../read/read.ts';
import type { FaultCode, Inert, Reading, Reference } from '../../read/reading.ts';
import type { Finding } from '../../report.ts';
import type { FileRule, PageSettlement, Remark } from '../rule.ts';

export const withoutEffect: FileRule = {
  name: 'without-effect',
  grade: 'broken',
  milder: [{ grade: 'fragile', when: 'where some browsers get it: a script with nomodule alone' }],
  summary: 'never takes effect',
  suffers: 'Nothing is loaded there, and no browser says so.',
  wrong: '<link rel="stylesheet" src="css/main.css">, <img scr="pier.svg">',
  right: '<link rel="stylesheet" href="css/main.css">, <img src="pier.svg">',
  settleText(finding, plain) {
    const { offset, holder, file, message } = finding;
    if (holder?.syntax === 'markup') return renamed(finding, plain);
    if (holder?.name === 'quote')
      return { sure: true, title: 'write straight quotes', edits: straightQuotes(plain, offset) };
    const isLate = message === inStyles['late-import']?.message;
    const edits = isLate ? moveImport(plain, offset, isPage(file)) : quoteImport(plain, offset);
    const title = isLate ? 'move it before all other rules' : 'put its address in quotes';
    return edits && { sure: true, title, edits };
  },
  isSettled: ({ holder, message }) => holder?.syntax === 'css' || MISSPELT.test(message),
  judgeFile({ reading }) {
    const remarks: Remark[] = (reading.page?.nearMisses ?? []).map(
      ({ element, attribute, value, meant, offset, length }) => ({
        offset,
        length,
        holder: holderOf('markup', element, attribute),
        written: value,
        message: `${element} has no attribute ${attribute}; ${meant} was probably meant`,
        settlements: [
          { sure: true, title: `write ${meant}`, edit: { start: offset, end: offset + length, text: meant } },
        ],
      }),
    );
    for (const inert of reading.page?.inert ?? []) {
      if (inert.why === 'disabled' && runsScripts(reading)) continue;
      if (inert.why === 'no-module' && runsModules(reading)) continue;
      remarks.push(remarkOn(inert));
    }
    for (const { offset, length, waits } of reading.page?.emptyScripts ?? []) {
      if (!waits) continue;
      const message = 'this script has neither a source nor code: its src was probably forgotten';
      remarks.push({ offset, length, holder: holderOf('markup', 'script', ''), written: '', message });
    }
    for (const { code, offset, length, written = '' } of reading.faults) {
      const said = inStyles[code];
      if (said === undefined) continue;
      const { name, message } = said;
      remarks.push({ offset, length, holder: holderOf('css', '', name), written, message });
    }
    return remarks;
  },
};

const MISSPELT = /^no browser knows the element (\S+); (\S+) was probably meant$/;

/** An element by the name that was meant, in both of its tags. */
function renamed({ offset, message }: Finding, plain: string): PageSettlement | null {
  const [, name, meant] = MISSPELT.exec(message) ?? [];
  if (name === undefined || meant === undefined) return null;
  const lower = plain.toLowerCase();
  const start = lower.lastIndexOf(`<${name}`, offset);
  const end = lower.indexOf(`</${name}`, offset);
  if (start < 0 || end < 0) return null;
  const edits = [start + 1, end + 2].map((at) => ({ start: at, end: at + name.length, text: meant }));
  return { sure: true, title: `write ${meant}`, edits };
}

const inStyles: Readonly<Partial<Record<FaultCode, { readonly name: string; readonly message: string }>>> = {
  'late-import': {
    name: '@import',
    message: '@import after other rules loads nothing',
  },
  'bare-import': {
    name: '@import',
    message: '@import loads nothing without quotes around its address',
  },
  'curly-quote': {
    name: 'quote',
    message: 'curly quotes are no quotes in a stylesheet: write straight ones',
  },
};

function remarkOn({ offset, length, holder, written, why, near, mend }: Inert): Remark {
  const settlements = mend === null ? [] : [{ sure: true, title: `write ${mend.text.trim()}`, edit: mend }];
  const meant = near === null ? '' : `; ${near} was probably meant`;
  const message = reasons[why] ?? `${unknown(why, holder.element)}${meant}`;
  const grade: Pick<Remark, 'grade'> = why === 'no-module' ? { grade: 'fragile' } : {};
  return { offset, length, holder, written, message, settlements, ...grade };
}

function unknown(why: Inert['why'], element: string): string {
  return why === 'misspelt-element'
    ? `no browser knows the element ${element}`
    : 'no device has this media type';
}

function runsScripts({ page, references }: Reading): boolean {
  const isScript = ({ kind }: Reference) => kind === 'script' || kind === 'module';
  return (page?.inlineScripts.length ?? 0) > 0 || references.some(isScript);
}

function runsModules({ page, references }: Reading): boolean {
  const isInline = page?.code.some(({ goal }) => goal === 'module');
  return isInline || references.some(({ kind, standing }) => kind === 'module' && standing !== null);
}

const reasons: Readonly<Partial<Record<Inert['why'], string>>> = {
  'no-relation': 'a link without rel loads nothing: say what it is for, for example rel="stylesheet"',
  'misspelt-relation': 'no browser knows this rel; rel="stylesheet" was probably meant',
  'no-script-type': 'scripts of this type are not run: leave the type out, or write module',
  'no-style-type': 'stylesheets of this type are not loaded: leave the type out',
  'no-address': 'this link has no href: it loads nothing',
  disabled: 'a stylesheet that is disabled is not loaded, and no script of the page enables it',
  'no-module':
    'browsers that know modules pass over a script with nomodule, and no module stands in for it here',
};
