/** The strings of a script, but for those by which it looks for elements. */
import type { CallExpression, Node, Program, TemplateLiteral } from 'acorn';
import { literalOf } from '../read/script/literal.ts';
import { nameOfCallee } from '../read/script/member.ts';
import { eachNode, parseAs } from '../read/script/parse.ts';

/** Calls that look for elements, or that listen to events. */
const LOOKING =
  /^(?:getElementById|getElementsBy\w+|querySelector(?:All)?|closest|matches|\$|jQuery|find|children|is|on|off|one|addEventListener|removeEventListener|define|whenDefined)$/;

/** One text of all of them; the whole text of a script that does not parse, or of a library (`isWhole` false). */
export function saidIn(text: string, goal: 'script' | 'module', isWhole: boolean): string {
  if (!isWhole) return text;
  let program: Program;
  try {
    program = parseAs(text, goal);
  } catch {
    return text;
  }
  const strings: string[] = [];
  const passed = new Set<number>();
  eachNode(program, (node) => {
    if (node.type === 'CallExpression') {
      const [first] = (node as CallExpression).arguments;
      const isLooking = LOOKING.test(nameOfCallee(node as CallExpression));
      if (first !== undefined && isLooking && !isMarkup(first)) passed.add(first.start);
    }
    if (passed.has(node.start)) return;
    if (node.type === 'Literal') {
      const value = literalOf(node)?.value;
      if (typeof value === 'string') strings.push(value);
    } else if (node.type === 'TemplateLiteral')
      for (const { value } of (node as TemplateLiteral).quasis) strings.push(value.cooked ?? '');
  });
  return strings.join('\n');
}

function isMarkup(node: Node): boolean {
  return String(literalOf(node)?.value ?? '').includes('<');
}
