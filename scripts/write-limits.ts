// Where each rule begins to speak: from set-ups with one fault each, and from one without any, one
// number at a time is moved until the rule falls silent or speaks, and the place is closed in on.
// Looked at and written anew where a limit is meant to change: npx tsx scripts/write-limits.ts
import { writeFileSync } from 'node:fs';
import { analyseSession } from '../core/analysis';
import { AMBIENCE, beside, calmWith, OUT, SPOT } from '../core/fixtures/calm';
import { numbersIn, saidOf, withNumber, type Limit } from '../core/test-limits';
import { PLANTED } from '../core/fixtures/planted';
import type { Session } from '../core/session';

const MOST_OF_EACH = 2;
const MOST_OF_CODE = 16;
const CLOSE = 0.003;
const tried = (v: number): number[] =>
  v === 0
    ? [0.03, -0.03, 0.3, -0.3, 3, -3, 30, -30]
    : [0.8, 1.25, 0.5, 2, 0.2, 5, 0, -1, 12].map((f) => v * f);

/** The path without the numbers of its entries: what stands for all of a kind. */
const kindOf = (path: string): string => path.replace(/\.\d+/g, '');

const messagesOf = (session: Session): Map<string, string> | null => {
  try {
    return saidOf(analyseSession(session).findings);
  } catch {
    return null;
  }
};

function closeIn(session: Session, path: string, code: string, said: number, not: number) {
  let [inside, outside] = [said, not];
  for (let i = 0; i < 40; i++) {
    if (Math.abs(inside - outside) <= CLOSE * Math.max(Math.abs(inside), 0.02)) break;
    const middle = Number(((inside + outside) / 2).toPrecision(6));
    const messages = messagesOf(withNumber(session, path, middle));
    if (!messages) return null;
    if (messages.has(code)) inside = middle;
    else outside = middle;
  }
  const message = messagesOf(withNumber(session, path, inside))?.get(code);
  return message === undefined ? null : { said: inside, not: outside, message };
}

const limits: Limit[] = [];
function search(base: string, session: Session, codes: readonly string[] | null): void {
  const counts = new Map<string, number>();
  const count = (key: string): number => {
    const so = (counts.get(key) ?? 0) + 1;
    counts.set(key, so);
    return so;
  };
  const before = messagesOf(session);
  if (!before) return;
  for (const [path, value] of numbersIn(session)) {
    const done = new Set<string>();
    for (const other of tried(value)) {
      const after = messagesOf(withNumber(session, path, other));
      if (!after) continue;
      for (const code of codes ?? new Set([...before.keys(), ...after.keys()])) {
        if (done.has(code) || before.has(code) === after.has(code)) continue;
        done.add(code);
        if ((counts.get(`${code} ${kindOf(path)}`) ?? 0) >= MOST_OF_EACH) continue;
        if ((counts.get(code) ?? 0) >= MOST_OF_CODE) continue;
        const [said, not] = before.has(code) ? [value, other] : [other, value];
        const found = closeIn(session, path, code, said, not);
        if (!found) continue;
        count(`${code} ${kindOf(path)}`);
        count(code);
        limits.push({ base, code, path, ...found });
      }
    }
  }
}

for (const [code, { session }] of Object.entries(PLANTED)) search(code, session, [code]);
search('calm', calmWith(beside(SPOT, OUT, AMBIENCE)), null);
const lines = limits.map((limit) => JSON.stringify(limit));
writeFileSync(
  new URL('../core/fixtures/limits.json', import.meta.url),
  `[\n${lines.join(',\n')}\n]\n`,
);
process.stdout.write(`${limits.length} limits\n`);
