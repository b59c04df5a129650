import { seededRandom } from '../core/units/random';
import { validContent } from './valid-sessions';

/** Damaged files: what disks, editors, other programs and ill will make of a session file. */

const STRANGE: readonly unknown[] = [
  null,
  true,
  -1,
  0,
  1e9,
  -1e308,
  1e-320,
  0.1 + 0.2,
  '',
  ' ',
  '..',
  'a/b',
  'x%2fy',
  'line\nbreak',
  '\ud800',
  '__proto__',
  '=1+1',
  'x'.repeat(3000),
  [],
  {},
  [[[[]]]],
  { length: -1 },
];

type Random = () => number;
const below = (random: Random, n: number): number => Math.floor(random() * n);

/** A place somewhere in the content: the object or list that holds it, and its key. */
function somewhere(random: Random, content: object): [Record<string, unknown>, string] {
  let holder = content as Record<string, unknown>;
  for (;;) {
    const keys = Object.keys(holder);
    const key = keys[below(random, keys.length)] ?? 'nothing';
    const inner = holder[key];
    const deeper = typeof inner === 'object' && inner !== null && Object.keys(inner).length > 0;
    if (!deeper || random() < 0.2) return [holder, key];
    holder = inner as Record<string, unknown>;
  }
}

function nested(depth: number): unknown {
  let value: unknown = 1;
  for (let i = 0; i < depth; i++) value = i % 2 === 0 ? { a: value } : [value];
  return value;
}

const CONTENT: readonly ((random: Random, content: object) => void)[] = [
  (random, content) => {
    const [holder, key] = somewhere(random, content);
    holder[key] = STRANGE[below(random, STRANGE.length)];
  },
  (random, content) => {
    const [holder, key] = somewhere(random, content);
    delete holder[key];
  },
  (random, content) => {
    const [holder, key] = somewhere(random, content);
    const copied = holder[key];
    const most = (JSON.stringify(copied)?.length ?? 0) > 500 ? 40 : 3000;
    holder[key] = Array.from({ length: below(random, most) }, () => copied);
  },
  (random, content) => {
    const [holder] = somewhere(random, content);
    holder[`field ${below(random, 9)}`] = nested(below(random, 200));
  },
  (random, content) => {
    const [holder, key] = somewhere(random, content);
    const [, other] = somewhere(random, content);
    holder[other] = holder[key];
  },
  (random, content) => {
    const [holder] = somewhere(random, content);
    for (let i = 0; i < below(random, 8000); i++) holder[`k${i}`] = i;
  },
];

const TEXT: readonly ((random: Random, text: string) => string)[] = [
  (random, text) => text.slice(0, below(random, text.length)),
  (random, text) => {
    const at = below(random, text.length);
    return text.slice(0, at) + String.fromCharCode(below(random, 65536)) + text.slice(at + 1);
  },
  (random, text) => text.replaceAll(/\d/g, (digit) => (random() < 0.02 ? '9e9' : digit)),
  (random, text) => `\ufeff${text}${random() < 0.5 ? '}' : '\u0000'}`,
  (random, text) => text.replace(':', '::'.slice(0, below(random, 3))),
];

/** The text of a damaged session file; the same seed gives the same text. */
export function damagedText(seed: number): string {
  const random = seededRandom(seed * 7919 + 13);
  const content = validContent(below(random, 4000));
  // Large sessions are damaged now and then, small ones mostly.
  if (random() < 0.8) for (const key of ['sources', 'takes']) cut(content, key);
  const changes = 1 + below(random, 4);
  for (let i = 0; i < changes; i++) CONTENT[below(random, CONTENT.length)]?.(random, content);
  const text = JSON.stringify(content);
  return random() < 0.3 ? (TEXT[below(random, TEXT.length)]?.(random, text) ?? text) : text;
}

function cut(content: Record<string, unknown>, key: string): void {
  const list = content[key];
  if (Array.isArray(list)) content[key] = list.slice(0, 5);
}
