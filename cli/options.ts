import { parseArgs } from 'node:util';
import { Usage } from './result';

/** Options that each take a value; anything else on the line is wrong usage. */
export function readOptions<const Name extends string>(
  args: readonly string[],
  names: readonly Name[],
): Partial<Record<Name, string>> {
  try {
    const options = Object.fromEntries(names.map((name) => [name, { type: 'string' as const }]));
    const joined = joinNegatives(args);
    const { values } = parseArgs({ args: joined, options, strict: true, allowPositionals: false });
    return values as Partial<Record<Name, string>>;
  } catch (error) {
    throw new Usage(error instanceof Error ? error.message : String(error));
  }
}

/** `--angle -5` reads as an option without a value unless it is joined: `--angle=-5`. */
export function joinNegatives(args: readonly string[]): string[] {
  const joined: string[] = [];
  for (const arg of args) {
    const before = joined[joined.length - 1];
    if (before?.startsWith('--') && !before.includes('=') && /^-[\d.]/.test(arg)) {
      joined[joined.length - 1] = `${before}=${arg}`;
    } else joined.push(arg);
  }
  return joined;
}

/** The one file a command works on. */
export function oneFile(command: string, args: readonly string[]): string {
  const [file, ...others] = args;
  if (file === undefined || others.length > 0 || file.startsWith('-')) {
    throw new Usage(`${command} takes one FILE`);
  }
  return file;
}

/** The one file a command works on, and whether a switch was given with it. */
export function fileAnd(
  command: string,
  args: readonly string[],
  flag: string,
): { file: string; given: boolean } {
  const rest = args.filter((arg) => arg !== `--${flag}`);
  return { file: oneFile(command, rest), given: rest.length < args.length };
}
