import { OUTLINES, outlineOf } from '../core/units/outlines';
import { boxAround, outlineProblems, type PlanPoint } from '../core/units/polygon';
import { seededRandom } from '../core/units/random';
import { readSession, type Session } from '../core/session';
import { jsonSchemaText } from '../core/session/json-schema';

/**
 * Sessions drawn from the published JSON Schema: every field with any value that the schema
 * allows, limits included, in sizes from empty to the largest. So a new field is covered on the
 * day it is added.
 */

interface Node {
  type?: string | string[];
  properties?: Record<string, Node>;
  required?: string[];
  items?: Node;
  anyOf?: Node[];
  oneOf?: Node[];
  enum?: unknown[];
  const?: unknown;
  minimum?: number;
  maximum?: number;
  maxItems?: number;
  maxLength?: number;
  pattern?: string;
  propertyNames?: Node;
  additionalProperties?: Node;
  default?: unknown;
}

const SCHEMA = JSON.parse(jsonSchemaText()) as Node;

/** 1 × 1 PNG. */
const DOT =
  'data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR4nGNgYGBgAAAABQABpfZFQAAAAABJRU5ErkJggg==';
const WORDS = ['', 'Viol', 'Ünïcode é', '合唱', 'a/b', '=1+1', '  ', 'x'.repeat(40), '👩‍🎤 solo'];
const KINDS = ['violin', 'oboe', 'piano', 'voice', 'timpani', 'harp', 'organ', 'nothing known'];
const BANDS = ['63', '125', '250', '500', '1000', '2000', '4000', '8000', '7'];

/** How daring a session is: how often a field leaves its default, and goes to its limits. */
interface Mood {
  given: number;
  limit: number;
  sources: number;
  arrays: number;
  others: number;
}

class Maker {
  private readonly random: () => number;

  constructor(
    seed: number,
    private readonly mood: Mood | null = null,
  ) {
    this.random = seededRandom(seed);
    this.mood = mood ?? this.drawMood();
  }

  private drawMood(): Mood {
    const size = this.random();
    return {
      given: this.pick([0.15, 0.5, 0.9, 1]),
      limit: this.pick([0, 0.05, 0.3, 0.8]),
      sources: size < 0.06 ? 0 : size < 0.85 ? this.below(9) + 1 : size < 0.98 ? 60 : 500,
      arrays: this.pick([0, 1, 1, 2, 3, 6, 12]),
      others: this.pick([0, 1, 2, 4]),
    };
  }

  below(n: number): number {
    return Math.floor(this.random() * n);
  }

  pick<T>(list: readonly T[]): T {
    return list[this.below(list.length)] as T;
  }

  chance(fraction: number): boolean {
    return this.random() < fraction;
  }

  number({ minimum: min = -1e6, maximum: max = 1e6 }: Node): number {
    const mood = this.mood as Mood;
    if (this.chance(mood.limit)) return this.pick([min, max]);
    if (this.chance(0.1) && min <= 0 && max >= 0) return 0;
    // Mostly near the small end, where a real session lives, sometimes anywhere.
    const reach = this.chance(0.3) ? 1 : 10 ** (-2 * this.random());
    const from = min < 0 && max > 0 ? min * reach : min;
    const value = from + (this.pick([1, reach]) * (max - from) || 0) * this.random();
    const rounded = Math.round(value * 1000) / 1000;
    return Math.min(max, Math.max(min, this.chance(0.5) ? rounded : value));
  }

  text(node: Node, key: string): string {
    if (node.pattern?.startsWith('^(data:')) return this.pick([DOT, 'b0', 'gone']);
    if (node.pattern?.includes('{64}')) return 'a0'.repeat(32);
    if (node.pattern?.includes('[0-5]')) return this.pick(['00:00', '09:30', '23:59']);
    if (node.pattern === '^\\d+$') return this.pick(BANDS);
    if (node.pattern?.includes('a-z')) return this.pick(['stick', 'shoe', 'ab']);
    if (key === 'kind') return this.pick(KINDS);
    if (key === 'date') return this.pick(['2026-12-12', '', 'soon']);
    const most = node.maxLength ?? 100;
    if (this.chance((this.mood as Mood).limit / 4)) return 'm'.repeat(Math.min(most, 300));
    return this.pick(WORDS).slice(0, most);
  }

  count(key: string, node: Node): number {
    const mood = this.mood as Mood;
    const most = node.maxItems ?? 10;
    if (key === 'sources') return Math.min(most, mood.sources);
    if (key === 'arrays') return Math.min(most, mood.arrays);
    if (key === 'capsules' || key === 'microphoneIds') return this.below(13);
    return Math.min(most, this.below(mood.others + 1));
  }

  value(node: Node, key = ''): unknown {
    if (key === 'own') return this.ownModel();
    if ('const' in node) return node.const;
    if (node.enum) return this.pick(node.enum);
    const choices = node.anyOf ?? node.oneOf;
    if (choices) return this.value(this.pick(choices), key);
    switch (Array.isArray(node.type) ? this.pick(node.type) : node.type) {
      case 'null':
        return null;
      case 'boolean':
        return this.chance(0.5);
      case 'number':
        return this.number(node);
      case 'string':
        return this.text(node, key);
      case 'array':
        return Array.from({ length: this.count(key, node) }, () =>
          this.value(node.items ?? {}, key),
        );
      default:
        return this.object(node);
    }
  }

  /** A listener's own model, which must rise, or none. */
  private ownModel(): Record<string, unknown> | null {
    if (this.chance(0.4)) return null;
    const rising = (): number[] => {
      const least = this.pick([0.001, 0.2, 1]);
      const drawn = Array.from({ length: 5 }, () => least + (1 - least) * this.random());
      return drawn.sort((a, b) => a - b);
    };
    const [levels, times] = [rising(), rising()];
    const spread = (shifts: readonly number[]): [number, number][] =>
      shifts.map((shift) => [shift * this.random(), shift + (1 - shift) * this.random()]);
    return {
      ...{ levels, times, levelSpread: spread(levels), timeSpread: spread(times) },
      ...(this.chance(0.7) && { joining: this.pick([0.3, 1, 1.2, 3]) }),
    };
  }

  private object(node: Node): Record<string, unknown> {
    const made: Record<string, unknown> = {};
    if (node.propertyNames && node.additionalProperties) {
      for (const band of BANDS.slice(0, this.below(BANDS.length + 1))) {
        made[band] = this.value(node.additionalProperties);
      }
      return made;
    }
    for (const [key, inner] of Object.entries(node.properties ?? {})) {
      const wanted =
        node.required?.includes(key) || ['sources', 'arrays', 'technique'].includes(key);
      if (wanted || this.chance((this.mood as Mood).given)) made[key] = this.value(inner, key);
    }
    return made;
  }
}

interface Named {
  id?: string;
}

/** Gives every entry of a list an id of its own. */
function withIds(list: unknown, prefix: string): string[] {
  const entries = (Array.isArray(list) ? list : []) as Named[];
  return entries.map((entry, i) => (entry.id = `${prefix}${i}`));
}

/** Replaces references, wherever they stand, by ids that exist (or now and then do not). */
function link(value: unknown, ids: Readonly<Record<string, string[]>>, maker: Maker): void {
  if (Array.isArray(value)) value.forEach((entry) => link(entry, ids, maker));
  if (typeof value !== 'object' || value === null) return;
  const record = value as Record<string, unknown>;
  for (const [key, inner] of Object.entries(record)) {
    const known = ids[key];
    if (!known) link(inner, ids, maker);
    else if (Array.isArray(inner)) {
      record[key] = inner.map(() => (maker.chance(0.2) ? '' : (maker.pick(known) ?? 'gone')));
    } else if (typeof inner === 'string') {
      record[key] = maker.chance(0.1) ? 'gone' : (maker.pick([...known, '']) ?? '');
    }
  }
}

/** Capsules are counted over the whole session: arrays beyond the limit go. */
function fitCapsules(raw: Record<string, unknown>): void {
  const arrays = raw.arrays as { technique?: { capsules?: unknown[] } }[];
  let left = 200;
  raw.arrays = arrays.filter(({ technique }) => {
    left -= technique?.capsules?.length ?? 2;
    return left >= 0;
  });
}

/** Corners drawn by themselves cross each other: a hall has an outline, or one that goes round its middle. */
function fitHall(venue: Record<string, unknown>, maker: Maker): void {
  const size = (value: unknown): number => (typeof value === 'number' ? value : 12);
  if (venue.shape) {
    const corners = drawnOutline(maker, size(venue.widthM), size(venue.depthM));
    if (outlineProblems(corners).length > 0) venue.shape = null;
    else {
      venue.shape = { corners };
      const box = boxAround(corners);
      [venue.widthM, venue.depthM] = [box?.maxX, box?.maxY];
    }
  }
  const ceiling = venue.ceiling as
    | { kind?: string; eavesM?: number; ridgeAtM?: unknown; steps?: { heightM: number }[] }
    | undefined;
  if (!ceiling?.kind || ceiling.kind === 'flat') return;
  const top = Math.max(1, size(venue.heightM));
  venue.heightM = top;
  if (ceiling.kind === 'pitched') {
    ceiling.eavesM = Math.max(0.5, Math.min(ceiling.eavesM ?? 1, top - 0.1));
    ceiling.ridgeAtM = null;
  }
  for (const step of ceiling.steps ?? []) step.heightM = Math.min(step.heightM, top);
}

function drawnOutline(maker: Maker, widthM: number, depthM: number): PlanPoint[] {
  if (maker.chance(0.5)) return outlineOf(maker.pick(OUTLINES), widthM, depthM);
  const count = 3 + maker.below(38);
  const round = Array.from({ length: count }, (_, i) => {
    const angle = (2 * Math.PI * i) / count;
    const far = 0.3 + 0.7 * (maker.below(1000) / 1000);
    return {
      x: (widthM / 2) * (1 + far * Math.cos(angle)),
      y: (depthM / 2) * (1 + far * Math.sin(angle)),
    };
  });
  const [left, front] = [
    Math.min(...round.map(({ x }) => x)),
    Math.min(...round.map(({ y }) => y)),
  ];
  return round.map(({ x, y }) => ({ x: x - left, y: y - front }));
}

/** The raw content of a valid session file; the same seed gives the same session. */
export function validContent(seed: number): Record<string, unknown> {
  const maker = new Maker(seed);
  const raw = maker.value(SCHEMA) as Record<string, unknown>;
  raw.id = `session-${seed}`;
  const venue = (raw.venue ?? {}) as Record<string, unknown>;
  const kit = (raw.kit ?? {}) as Record<string, unknown>;
  fitCapsules(raw);
  const ids = {
    sourceId: withIds(raw.sources, 's'),
    arrayId: withIds(raw.arrays, 'm'),
    sectionId: withIds(raw.sections, 'n'),
    microphoneIds: withIds(kit.microphones, 'k'),
  };
  fitHall(venue, maker);
  for (const list of [
    venue.datumPoints,
    venue.obstacles,
    venue.seats,
    venue.areas,
    kit.stands,
    kit.bars,
  ]) {
    withIds(list, 'e');
  }
  withIds(raw.candidates, 'c');
  for (const { setUp } of (raw.candidates ?? []) as { setUp?: unknown }[]) withIds(setUp, 'm');
  for (const [list, prefix] of [
    [raw.blobs, 'b'],
    [raw.log, 'l'],
    [raw.takes, 't'],
    [raw.marks, 'q'],
    [raw.acknowledgements, 'a'],
  ] as const) {
    withIds(list, prefix);
  }
  const brief = (raw.brief ?? {}) as { timetable?: { entries?: unknown } };
  withIds(brief.timetable?.entries, 'step');
  link(raw, ids, maker);
  return raw;
}

/** A valid session, read as from a file. */
export function validSession(seed: number): Session {
  const read = readSession(validContent(seed));
  if (read.ok) return read.session;
  const list = read.problems.map(({ path, message }) => `${path}: ${message}`).join('; ');
  throw new Error(`the made session ${seed} is not valid: ${list}`);
}
