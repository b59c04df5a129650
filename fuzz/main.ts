// Tries made sessions and damaged files in a process of its own, built as the product is: what holds a core
// for long here holds it for as long there.
//   node main.js KIND FROM COUNT
import { tryDamaged, tryEverything, type Trouble } from './run';
import { tryDamagedSound } from './sound';

const KINDS: Record<string, (seed: number) => Promise<Trouble[]>> = {
  sessions: tryEverything,
  files: tryDamaged,
  recordings: tryDamagedSound,
};
/** More of them say nothing new. */
const MOST_TROUBLES = 20;

const [, , kind = '', from = '', count = ''] = process.argv;
const attempt = KINDS[kind];
if (!attempt) throw new Error(`${kind}; allowed: ${Object.keys(KINDS).join(', ')}`);
const found: Trouble[] = [];
const first = Number(from);
let tried = 0;
for (; tried < Number(count) && found.length < MOST_TROUBLES; tried++) {
  found.push(...(await attempt(first + tried)));
}
process.stdout.write(JSON.stringify({ tried, found }));
