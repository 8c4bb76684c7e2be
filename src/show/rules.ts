/** What the rules say, for a terminal and for the docs; both come from the facts in the rules' own files. */
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
export function ruleAsText(
  { name, grade, summary, suffers, wrong, right, command }: RuleFacts,
  paint: Paint,
  columns: number,
): string {
  const lines = [
    `${paint.bold(name)}   ${paintGrade(grade, paint)} ${paint.marks.dot} ${summary}`,
    '',
    ...wrap(suffers, columns),
    '',
    `${paint.dim('wrong')}  ${paint.red(wrong)}`,
    `${paint.dim('right')}  ${paint.green(right)}`,
  ];
  if (command !== undefined) lines.push(`${paint.dim('mend')}   ${command}`);
  lines.push('', paint.dim(`Change its grade, or switch it off, in cravel.yaml:  grades: { ${name}: off }`));
  return `${lines.join('\n')}\n`;
}

/** The page of the docs about one rule. */
export function ruleAsPage({ name, grade, summary, suffers, wrong, right, command }: RuleFacts): string {
  const mend = command === undefined ? '' : `\nMended by \`${command}\`.\n`;
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
${mend}
Change its grade, or switch it off, in [cravel.yaml](../settings.md): \`grades: { ${name}: off }\`.
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
