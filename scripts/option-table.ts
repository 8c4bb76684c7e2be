/** The examples and options of a command, as its page in the docs has them. */
import { type Declaration, saidOfOption, shownOption } from '../src/command/declaration.ts';

/** The page with its examples and its table of options as they are declared; all else stays. */
export function withOptions(page: string, { examples, options }: Declaration): string {
  const shown = `\`\`\`sh\n${examples.join('\n')}\n\`\`\``;
  const rows = Object.entries(options).map(
    ([name, option]) => `| \`${shownOption(name, option)}\` | ${saidOfOption(option)} |`,
  );
  const table = rows.length === 0 ? '' : `\n\n| option | meaning |\n|---|---|\n${rows.join('\n')}`;
  return page.replace(/```sh\n[\s\S]*?```(?:\n\n\| option \| meaning \|(?:\n\|.*)*)?/, () => shown + table);
}
