/** What a command is declared with: plain data, from which calls are parsed and checked, and help and docs are made. */

interface Said {
  readonly about: string;
}

interface Flag extends Said {
  readonly is: 'flag';
}

/** One text; `fits` says which. */
interface Text extends Said {
  readonly is: 'text';
  readonly value: string;
  readonly fits?: { readonly pattern: RegExp; readonly words: string };
  readonly unlessSaid?: string;
}

/** One of a few words. */
interface Choice extends Said {
  readonly is: 'choice';
  readonly value: string;
  readonly choices: readonly string[];
  readonly unlessSaid?: string;
}

/** Any number of texts: the option may be repeated. */
interface List extends Said {
  readonly is: 'list';
  readonly value: string;
}

export type Option = Flag | Text | Choice | List;
/** By their names as the code has them: `dryRun` is `--dry-run`. */
export type Options = Readonly<Record<string, Option>>;

export interface Declaration {
  /** The name, and the arguments in Commander's notation. */
  readonly usage: string;
  readonly about: string;
  readonly examples: readonly string[];
  readonly options: Options;
}

type ValueOf<O extends Option> = O extends Flag
  ? boolean
  : O extends List
    ? string[]
    : O extends { readonly choices: readonly (infer One)[] }
      ? One | (O extends { readonly unlessSaid: string } ? never : undefined)
      : string | (O extends { readonly unlessSaid: string } ? never : undefined);

/** The options of a command once they were checked. */
export type Checked<O extends Options> = { -readonly [Name in keyof O]: ValueOf<O[Name]> };

export function flag(about: string) {
  return { is: 'flag', about } as const;
}

export function text(value: string, about: string) {
  return { is: 'text', value, about } as const;
}

export function choice<const C extends readonly string[]>(value: string, choices: C, about: string) {
  return { is: 'choice', value, choices, about } as const;
}

export function list(value: string, about: string) {
  return { is: 'list', value, about } as const;
}

/** `--dry-run` for `dryRun`. */
export function flagOf(name: string): string {
  return `--${name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`)}`;
}

/** `--into <globs>`, as help and docs show it. */
export function shownOption(name: string, option: Option): string {
  return option.is === 'flag' ? flagOf(name) : `${flagOf(name)} ${option.value}`;
}

/** What help and docs say of an option. */
export function saidOfOption(option: Option): string {
  return 'unlessSaid' in option ? `${option.about} (unless said: ${option.unlessSaid})` : option.about;
}
