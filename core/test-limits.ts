import type { Finding } from './analysis';
import type { Session } from './session';

/** One place where a rule begins to speak, as one number of a set-up moves. */
export interface Limit {
  /** the planted fault, or calm */
  base: string;
  code: string;
  /** of the number in the session, by points */
  path: string;
  /** a value at which it speaks, and one beside it at which it does not */
  said: number;
  not: number;
  /** what it says there */
  message: string;
}

/** What is said, by code; of several of one code together. */
export function saidOf(findings: readonly Finding[]): Map<string, string> {
  const said = new Map<string, string>();
  for (const { code, severity, message } of findings) {
    const words = `${severity}: ${message}`;
    said.set(code, said.has(code) ? `${said.get(code)} | ${words}` : words);
  }
  return said;
}

/** Every number of the plan that a rule may look at, by its path. */
export function numbersIn(session: Session): [path: string, value: number][] {
  const found: [string, number][] = [];
  const walk = (value: unknown, path: string): void => {
    if (typeof value === 'number') found.push([path, value]);
    else if (value && typeof value === 'object') {
      for (const [key, inside] of Object.entries(value)) {
        walk(inside, path === '' ? key : `${path}.${key}`);
      }
    }
  };
  for (const part of ['arrays', 'sources', 'venue', 'kit', 'brief', 'rig'] as const) {
    walk(session[part], part);
  }
  return found.filter(([path]) => !/\.(version|polarity|count|columns|rows)$/.test(path));
}

/** The same session with another number at a path. */
export function withNumber(session: Session, path: string, value: number): Session {
  const copy = structuredClone(session);
  const keys = path.split('.');
  const last = keys.pop() ?? '';
  let inside = copy as unknown as Record<string, unknown>;
  for (const key of keys) inside = inside[key] as Record<string, unknown>;
  inside[last] = value;
  return copy;
}
