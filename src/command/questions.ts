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
  /** Ctrl-C comes as a key here; where it comes as a signal all the same, it means the same. */
  async function answered<T>(ask: (context: Context) => Promise<T>): Promise<T> {
    const brokenOff = new AbortController();
    const breakOff = () => brokenOff.abort();
    process.on('SIGINT', breakOff);
    try {
      return await ask({ output: stderr, signal: brokenOff.signal });
    } catch (error) {
      if (error instanceof Error && /^(Exit|Abort)PromptError$/.test(error.name)) throw fail('not-answered');
      throw error;
    } finally {
      process.off('SIGINT', breakOff);
    }
  }
  return {
    text: (message, suggestion, check = () => true) =>
      answered((context) => input({ message, default: suggestion, validate: check }, context)),
    choice: (message, choices, first) =>
      answered((context) =>
        select(
          {
            message,
            default: first,
            choices: choices.map(({ name, about }) => ({ value: name, name, description: about })),
          },
          context,
        ),
      ),
    confirm: (message) => answered((context) => confirm({ message, default: true }, context)),
  };
}

interface Context {
  readonly output: Output['stderr'];
  readonly signal: AbortSignal;
}
