import { withOldNames } from './old-names';

/** What a command leaves behind: exit status, standard output, lines for standard error. */
export interface CommandResult {
  status: 0 | 1;
  out: string;
  /** instead of text: a file for standard output */
  bytes?: Uint8Array;
  errors: string[];
}

/** The command line itself is wrong (exit status 2). */
export class Usage extends Error {}

export const succeeded = (value: unknown): CommandResult => ({
  status: 0,
  out: JSON.stringify(withOldNames(value), null, 2),
  errors: [],
});

export const failed = (errors: string[]): CommandResult => ({ status: 1, out: '', errors });
