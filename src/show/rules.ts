/** What the rules say, for a terminal and for the docs; both come from the facts in the rules' own files. */
import { gradesOf } from '../core/judge/grading.ts';
import { type RuleFacts } from '../core/judge/rule.ts';
import { grades } from '../core/report.ts';
import { type Paint, paintGrade, wrap } from './paint.ts';

/** The list of all rules, by grade. */
export function rulesAsText(rules: readonly RuleFacts[], paint: Paint): string {
  const width = Math.max(...rules.map(({ name }) => name.length));
  const blocks = grades.map((grade) => {
    const rows = rules
      .filter((rule) => rule.grade === grade)
      .map(({ name, summary }) => `  ${name.padEnd(width)}  ${paint.dim(summary)}`);
    return `${paintGrade(grade, paint)} ${paint.marks.dot} ${meanings[grade]}\n${rows.join('\n')}\n`;
  });
  return blocks.join('\n');
}

const meanings: Readonly<Record<(typeof grades)[number], string>> = {
  broken: 'visitors do not get it',
  fragile: 'it works only under some conditions: one machine, one host, one folder',
  misplaced: 'it is there, but in the wrong place, order or kind',
  untidy: 'it works, and a careful person would still change it',
};

/** All about one rule. */
export function ruleAsText(rule: RuleFacts, paint: Paint, columns: number): string {
  const { name, grade, summary, suffers, wrong, right, next } = rule;
  const lines = [
    `${paint.bold(name)}   ${paintGrade(grade, paint)} ${paint.marks.dot} ${summary}`,
    '',
    ...wrap(suffers, columns),
    '',
    `${paint.dim('wrong')}  ${paint.red(wrong)}`,
    `${paint.dim('right')}  ${paint.green(right)}`,
  ];
  const mend = mendOf(rule) ?? next?.shown;
  if (mend !== undefined) lines.push(`${paint.dim('mend')}   ${mend}`);
  for (const milder of milderOf(rule)) lines.push(`${paint.dim('milder')} ${milder}`);
  lines.push('', paint.dim(`Change its grade, or silence it, in cravel.yaml:  grades: { ${name}: silent }`));
  return `${lines.join('\n')}\n`;
}

/** The command that settles what a rule finds, where its page must be taken apart for that; null for others. */
function mendOf({ name, settle, asks, guesses }: RuleFacts): string | null {
  const how = asks === undefined && guesses === undefined ? '' : '--guesses ';
  return settle === undefined ? null : `cravel mend ${how}--only ${name}`;
}

/** `untidy in a file that no page of the site loads` */
function milderOf(rule: RuleFacts): string[] {
  const [, ...milder] = gradesOf(rule);
  return milder.map(({ grade, when }) => `${grade} ${when}`);
}

/** The page of the docs about one rule. */
export function ruleAsPage(rule: RuleFacts): string {
  const { name, grade, summary, suffers, wrong, right, next } = rule;
  const milder = milderOf(rule).map((one) => `\nMilder: ${one}.\n`);
  const command = mendOf(rule);
  const settled = command === null ? '' : `\nMended by \`${command}\`.\n`;
  const mend = next === undefined ? settled : `\nWhere no edit mends it: \`${next.shown}\`.\n`;
  return `# ${name}

**${grade}**: ${meanings[grade]}. Found: ${summary}.

${suffers}

Wrong:

\`\`\`
${wrong}
\`\`\`

Right:

\`\`\`
${right}
\`\`\`
${milder.join('')}${mend}
Change its grade, or silence it, in [cravel.yaml](../settings.md): \`grades: { ${name}: silent }\`.
`;
}

/** The list of the docs. */
export function rulesAsPage(rules: readonly RuleFacts[]): string {
  const blocks = grades.map((grade) => {
    const rows = rules
      .filter((rule) => rule.grade === grade)
      .map(({ name, summary }) => `| [${name}](${name}.md) | ${summary} |`);
    return `## ${grade}\n\n${meanings[grade].charAt(0).toUpperCase()}${meanings[grade].slice(1)}.\n\n| rule | finds |\n|---|---|\n${rows.join('\n')}\n`;
  });
  return `# Rules\n\nWhat \`cravel check\` finds, the worst first. \`cravel rules\` lists them, \`cravel rules <name>\` explains one.\n\n${blocks.join('\n')}`;
}
