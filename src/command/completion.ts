/** `cravel completion`: prints what makes a shell complete the names of commands and options. */
import { fail } from '../core/errors.ts';
import { visible } from '../show/escape.ts';
import { flagOf } from './declaration.ts';
import { declarations, shells } from './declarations.ts';
import type { Output } from './output.ts';

export function completion(shell: string, { out }: Output): number {
  const known = shells.find((one) => one === shell);
  if (known === undefined) throw fail('no-shell', visible(shell), shells.join(', '));
  out(makers[known]());
  return 0;
}

const names = Object.keys(declarations);
/** The words that may follow a command: its options, and the choices of one. */
const commands = Object.entries(declarations).map(([name, { options }]) => ({
  name,
  flags: [...Object.keys(options).map(flagOf), '--help'],
  choices: Object.entries(options).flatMap(([option, one]) =>
    one.is === 'choice' ? [{ flag: flagOf(option), words: one.choices }] : [],
  ),
}));

/** bash and zsh, which takes over what is made for bash. */
function forBash(): string {
  const cases = commands.map(({ name, flags, choices }) => {
    const inner = choices.map(({ flag, words }) => `      ${flag}) words="${words.join(' ')}" ;;`);
    const options = [...inner, `      *) [[ $now == -* ]] && words="${flags.join(' ')}" ;;`];
    return `    ${name}) case $before in\n${options.join('\n')}\n    esac ;;`;
  });
  return `_cravel() {
  local now=\${COMP_WORDS[COMP_CWORD]} before=\${COMP_WORDS[COMP_CWORD - 1]} words=""
  COMPREPLY=()
  if ((COMP_CWORD == 1)); then words="${names.join(' ')} --help --version"; else
    case \${COMP_WORDS[1]} in
${cases.join('\n')}
    esac
  fi
  [[ -n $words ]] && COMPREPLY=($(compgen -W "$words" -- "$now"))
  return 0
}
complete -o bashdefault -o default -F _cravel cravel
`;
}

function forFish(): string {
  const quoted = (text: string) => `'${text.replace(/[\\']/g, '\\$&')}'`;
  const lines = Object.entries(declarations).flatMap(([name, { about, options }]) => [
    `complete -c cravel -n __fish_use_subcommand -a ${name} -d ${quoted(about)}`,
    ...Object.entries(options).map(([option, one]) => {
      const takes =
        one.is === 'flag' ? '' : one.is === 'choice' ? ` -x -a ${quoted(one.choices.join(' '))}` : ' -r';
      return `complete -c cravel -n '__fish_seen_subcommand_from ${name}' -l ${flagOf(option).slice(2)}${takes} -d ${quoted(one.about)}`;
    }),
  ]);
  return `${lines.join('\n')}\n`;
}

const makers: Readonly<Record<(typeof shells)[number], () => string>> = {
  bash: forBash,
  zsh: () => `autoload -U +X bashcompinit && bashcompinit\n${forBash()}`,
  fish: forFish,
};
