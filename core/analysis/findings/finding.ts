import { shiftIn } from '../../localisation/leading';
import { BOUNDS } from '../../session/bounds';
import type { MicArray, Session, Source } from '../../session/schema';
import type { ArrayFigures } from '../array-figures';
import type { SourceFigures } from '../source-figures';

export type Severity = 'fault' | 'caution' | 'note';

/** What a rule stands on. A preference can be switched off, physics cannot. */
export type Basis = 'physics' | 'rule' | 'safety' | 'preference';

/**
 * What a finding was judged by, so that a page can show it: a picture or table of the finding's own,
 * or the place where the figures stand.
 */
export type Evidence =
  | 'mono'
  | 'reflections'
  | 'images'
  | 'levels'
  | 'arrivals'
  | 'spill'
  | 'stands'
  | 'channels'
  | 'kit'
  | 'hall'
  | 'pair'
  | 'floor'
  | 'shadow'
  | 'faces';

/** A change to the session that mends a finding, as data. */
export type Change =
  | {
      kind: 'source';
      id: string;
      set: Partial<
        Pick<
          Source,
          'name' | 'x' | 'y' | 'z' | 'levelDb' | 'q' | 'facingDeg' | 'lid' | 'constraints'
        >
      >;
    }
  | {
      kind: 'array';
      id: string;
      set: Partial<
        Pick<
          MicArray,
          | 'name'
          | 'enabled'
          | 'x'
          | 'y'
          | 'z'
          | 'aimDeg'
          | 'tiltDeg'
          | 'technique'
          | 'standard'
          | 'mix'
          | 'for'
          | 'equipment'
          | 'monoLossAccepted'
          | 'hung'
        >
      >;
    };

/** Something that could be done. */
export interface Fix {
  label: string;
  changes: Change[];
}

/** Something that was done on a copy, and helped. */
export interface WayOut extends Fix {
  /** what becomes of the finding, before and after: "gap 52 → 31 %" */
  becomes: string;
  /** what it costs, each in words; empty where nothing is worse */
  price: string[];
  /** of which member it is, by its place; null for the finding as a whole */
  member: number | null;
}

/** Something the plan should be told: what, how much and why. */
export interface Finding {
  code: string;
  /** the same for the same finding of a changed session */
  key: string;
  evidence: Evidence | null;
  severity: Severity;
  basis: Basis;
  message: string;
  /** nothing may be switched on or put up before it is mended */
  blocking: boolean;
  /** the physics or the rule behind it, in one line */
  reason: string;
  /** the array that a rule for its role looked at; null for what is about several or none */
  arrayId: string | null;
  /** every array that it is about; empty for the session as a whole */
  arrayIds: string[];
  sourceIds: string[];
  /** surfaces of the hall that it is about, as their absorption is kept */
  surfaces: string[];
  /** the figures behind it */
  figures: Record<string, number | null>;
  /** how bad it is, against itself in a changed session: above 0 */
  size: number;
  /** what a person does about it that no change of the plan can do */
  todo: string | null;
  /** what one cause makes in several places, the worst last; empty where it is one */
  members: FindingMember[];
  /** a cause: what it makes, which goes with it */
  explains: Explained[];
}

/** A finding that another one is the cause of. */
export interface Explained {
  code: string;
  message: string;
}

/** One place of a finding that has several. */
export interface FindingMember {
  message: string;
  sourceIds: string[];
  figures: Record<string, number | null>;
}

/** What a rule about one array sees. */
export interface ArrayView {
  session: Session;
  array: MicArray;
  figures: ArrayFigures;
}

/** One thing that can be turned: its steps, the gentlest first, made as they are asked for. */
export type Lever = Iterable<Fix>;

/** What a rule finds; code, basis and reason come from the rule itself. */
export interface Found {
  severity: Severity;
  blocking?: boolean;
  message: string;
  sources?: readonly { id: string }[];
  /** arrays that it is about; a rule about one array need not say it */
  arrays?: readonly { id: string }[];
  /** surfaces of the hall that it is about */
  surfaces?: readonly string[];
  figures: Finding['figures'];
  /** how bad it is, above 0; as many as there are players where it is not given */
  size?: number;
  todo?: string;
  /** ways out that may be tried, one lever each, the gentlest first */
  levers?: () => readonly Lever[];
  /** how to say what becomes of it: its figure, before and after */
  gauge?: Gauge;
  /** what would have to change where no way out stands */
  instead?: string;
  cause?: Cause;
  /** tells it from others of its rule that name the same players and arrays */
  subject?: string;
}

/** One figure of a finding that can be taken of any session: what is told of a way out. */
export interface Gauge {
  words: string;
  unit: string;
  digits: number;
  /** null where the session has none */
  of: (session: Session) => number | null;
  /** a value of it in words; else the number with its unit */
  say?: (value: number) => string;
}

/** What several things that a rule finds have in common: they are told as one. */
export interface Cause {
  /** equal for all that it made */
  key: string;
  /** how bad this one is, in any unit: the worst speaks first and is mended last */
  weight: number;
  /** says all of them in one sentence, the worst last in the list */
  words: (all: readonly Found[]) => string;
  /** for the one action that mends them all */
  fixLabel?: string;
}

interface RuleBase {
  code: string;
  /** null where the message says all */
  evidence: Evidence | null;
  basis: Basis;
  /** every severity that it may speak with, the worst first */
  severities: readonly Severity[];
  reason: string;
  /** names what is wrong with a set-up as a whole: asked before everything else */
  isCause?: boolean;
}

export type Role = MicArray['role'];
export const EVERY_ROLE: readonly Role[] = [
  'main',
  'outrigger',
  'ambience',
  'spot',
  'overhead',
  'surround',
];

export type Rule = RuleBase &
  (
    | { of: 'array'; roles: readonly Role[]; check: (view: ArrayView) => Found[] }
    | { of: 'session'; check: (session: Session) => Found[] }
  );

/** "Flute, Oboe 1 and 3 more" */
export function namesOf(session: Session, figures: readonly { id: string }[]): string {
  const ids = [...new Set(figures.map(({ id }) => id))];
  const names = ids.map((id) => session.sources.find((source) => source.id === id)?.name ?? id);
  if (names.length <= 3) return names.join(', ');
  return `${names.slice(0, 3).join(', ')} and ${names.length - 3} more`;
}

/** Players of several findings, the worst first. */
export const sourcesOf = (all: readonly Found[]): { id: string }[] =>
  [...all].reverse().flatMap(({ sources }) => [...(sources ?? [])]);

/** A figure of the worst; null where it has none of that name. */
export const firstOf = (all: readonly Found[], figure: string): number | null =>
  all[all.length - 1]?.figures[figure] ?? null;

/** An array's name, or its id where it is gone. */
export const arrayName = (session: Session, id: string): string =>
  session.arrays.find((array) => array.id === id)?.name ?? id;

/** Image shift in the session's model, or in the one that speaks instead; null without an image. */
export function leadingShift(session: Session, source: SourceFigures): number | null {
  return shiftIn(source, session.settings.model);
}

const FIELD_BOUNDS = {
  x: BOUNDS.positionM,
  y: BOUNDS.positionM,
  z: BOUNDS.positionM,
  levelDb: BOUNDS.levelDb,
  aimDeg: BOUNDS.azimuthDeg,
  facingDeg: BOUNDS.azimuthDeg,
  tiltDeg: BOUNDS.elevationDeg,
} as const;

/** Whether what a fix sets is within what a session may hold. */
export function isAllowed({ changes }: Fix): boolean {
  return changes.every(({ set }) =>
    Object.entries(FIELD_BOUNDS).every(([field, { min, max }]) => {
      const value: unknown = (set as Record<string, unknown>)[field];
      return typeof value !== 'number' || (value >= min && value <= max);
    }),
  );
}

/** A session with a fix applied; entries that are gone are left alone. */
export function applyFix(session: Session, fix: Fix): Session {
  const changed = <T extends { id: string }>(kind: Change['kind'], entries: readonly T[]): T[] =>
    entries.map((entry) =>
      fix.changes.reduce<T>(
        (result, change) =>
          change.kind === kind && change.id === entry.id ? { ...result, ...change.set } : result,
        entry,
      ),
    );
  return {
    ...session,
    sources: changed('source', session.sources),
    arrays: changed('array', session.arrays),
  };
}
