/** Longest name or title that a session file holds, characters. */
const MOST_NAME = 200;

/**
 * A name with something behind it, shortened so that the whole still fits a session file: a copy
 * or a number must never make a file that cannot be read again.
 */
export function nameWith(name: string, behind: string): string {
  const kept = [...name];
  let text = `${name}${behind}`;
  while (text.length > MOST_NAME && kept.length > 0) {
    kept.pop();
    text = `${kept.join('').trimEnd()}…${behind}`;
  }
  return text;
}

/** "Flute 2" after "Flute" and "Flute 1". */
export function freeName(name: string, taken: ReadonlySet<string>): string {
  if (!taken.has(name)) return name;
  const base = name.replace(/ \d+$/, '');
  let number = 2;
  while (taken.has(nameWith(base, ` ${number}`))) number += 1;
  return nameWith(base, ` ${number}`);
}
