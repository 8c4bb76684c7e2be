/** Asks questions at a terminal; where there is none, nobody is asked. */
import { fail } from '../core/errors.ts';
import type { Output } from './output.ts';

export interface Asker {
  text(question: string, suggestion: string, check?: (answer: string) => string | true): Promise<string>;
  choice(
    question: string,
    choices: readonly { readonly name: string; readonly about: string }[],
    first: string,
  ): Promise<string>;
  confirm(question: string): Promise<boolean>;
}

/** Null where the input or the notes are no terminal. */
export async function asker({ stderr }: Output): Promise<Asker | null> {
  if (process.stdin.isTTY !== true || stderr.isTTY !== true) return null;
  const [{ default: input }, { default: select }, { default: confirm }] = await Promise.all([
    import('@inquirer/input'),
    import('@inquirer/select'),
    import('@inquirer/confirm'),
  ]);
  const context = { output: stderr };
  return {
    text: (message, suggestion, check = () => true) =>
      answered(input({ message, default: suggestion, validate: check }, context)),
    choice: (message, choices, first) =>
      answered(
        select(
          {
            message,
            default: first,
            choices: choices.map(({ name, about }) => ({ value: name, name, description: about })),
          },
          context,
        ),
      ),
    confirm: (message) => answered(confirm({ message, default: true }, context)),
  };
}

async function answered<T>(answer: Promise<T>): Promise<T> {
  try {
    return await answer;
  } catch (error) {
    if (error instanceof Error && error.name === 'ExitPromptError') throw fail('not-answered');
    throw error;
  }
}
