/** Files of data that scripts ask for and that are no JSON (RFC 8259). */
import { draftOfRemark, placed } from '../judge/drafts.ts';
import { refusalRule } from '../judge/index.ts';
import { jsonFault } from '../read/script/json-fault.ts';
import { spotOfCode, textOfScript } from '../read/spot-of-code.ts';
import type { Finding } from '../report.ts';
import type { Ledger } from './ledger.ts';
import type { Sources } from './running-page.ts';
import type { Leads } from './site-facts.ts';

/** `used`: what pages get by addresses in scripts; what was read by its format was told of by that. */
export function brokenDataOf(used: Leads, ledger: Ledger, { bytesOf, extentIn }: Sources): Finding[] {
  const asked = [...used.values(), ...ledger.data].flat();
  const files = new Set(asked.filter((path) => path.endsWith('.json')));
  return [...files].flatMap((file) => {
    if (ledger.get(file) !== undefined) return [];
    const bytes = bytesOf(file);
    // A byte order mark is none of its text (Fetch 5.3).
    const text = textOfScript(bytes, 'utf-8').replace(/^\uFEFF/, ' ');
    if (text.trim() === '' || isJson(text)) return [];
    const { start, end, detail } = jsonFault(text);
    const span = spotOfCode(bytes, 'utf-8', null, { start, end });
    const said = refusalRule.judgeRefusal({ why: detail, isModular: false, syntax: 'json' });
    const draft = draftOfRemark(refusalRule, file, { ...span, written: '', target: file, ...said });
    return [placed(draft, extentIn(file, span))];
  });
}

function isJson(text: string): boolean {
  try {
    JSON.parse(text);
    return true;
  } catch {
    return false;
  }
}
