import { faceOf } from '../acoustics/faced-room';
import { shadowByOctave } from '../acoustics/shadow';
import { anatomyOf, floorUnder, onPlan, sizeOf } from '../ensembles/anatomy';
import { hallScreens, isHidden, roomOf, shadowBetween, type Screen } from '../hall';
import { readyArray } from '../prepare/arrays';
import { contextOf } from '../prepare/context';
import type { MicArray, Session, Source } from '../session/schema';
import { remembered } from '../units/remember';
import { vec, type Vec3 } from '../units/vector';

/** How far a lid stands open on its sticks, degrees: usual ones. */
const OPEN_DEG: Partial<Record<Source['lid'], number>> = { 'short-stick': 18, 'full-stick': 38 };
/** The lid begins where the part over the keys is folded back, of the player's frame, m. */
const LID_FROM_M = -0.42;
const RIM_M = 1.0;

/** The open lid of a piano as a screen; null where there is none that stands open. */
function lidScreen(source: Source): Screen | null {
  const openDeg = OPEN_DEG[source.lid];
  const anatomy = anatomyOf(source);
  if (openDeg === undefined || !anatomy?.hinge) return null;
  const xs = anatomy.outline.map(([right]) => right);
  const ys = anatomy.outline.map(([, ahead]) => ahead);
  const [left, right] = [Math.min(...xs), Math.max(...xs)];
  const [near, far] = [LID_FROM_M, Math.max(...ys)];
  const angle = (openDeg * Math.PI) / 180;
  const wide = right - left;
  const hinged = anatomy.hinge === 'left' ? left : right;
  const out = hinged + (anatomy.hinge === 'left' ? 1 : -1) * wide * Math.cos(angle);
  const floor = floorUnder(source);
  const rise = sizeOf(source) * wide * Math.sin(angle);
  const corner = (across: number, ahead: number, z: number): Vec3 => {
    const { x, y } = onPlan(source, [across, ahead]);
    return vec(x, y, z);
  };
  const corners = [
    corner(hinged, near, floor + RIM_M),
    corner(out, near, floor + RIM_M + rise),
    corner(out, far, floor + RIM_M + rise),
    corner(hinged, far, floor + RIM_M),
  ];
  return {
    name: `the lid of ${source.name}`,
    faces: [faceOf('lid', corners)],
    // Below its hinge is the rim: no way leads there.
    edges: [0, 1, 2].map(
      (i) => [corners[i] ?? vec(0, 0, 0), corners[i + 1] ?? vec(0, 0, 0)] as const,
    ),
    solid: null,
  };
}

const lidScreens = remembered((sources: readonly Source[]): readonly Screen[] =>
  sources.flatMap((source) => lidScreen(source) ?? []),
);

/** Everything of a session that can stand between a player and a microphone. */
export const screensOf = ({ venue, sources }: Pick<Session, 'venue' | 'sources'>): Screen[] => [
  ...hallScreens(venue),
  ...lidScreens(sources),
];

/** A player whom a microphone does not see. */
export interface Shadowed {
  source: Source;
  /** the capsule that is hidden most */
  capsule: string;
  /** capsules that are hidden, of how many */
  hidden: number;
  of: number;
  /** what stands between, with its article */
  by: string[];
  /** what it takes off the direct sound, by octave, dB; null where there is no way round */
  octaves: { hz: number; db: number }[] | null;
}

/** So much in an octave and it is not heard directly there, dB. */
export const NOT_DIRECT_DB = 10;

/** Whether most octaves lose so much that a player is not heard directly. */
export const isNotDirect = ({ octaves }: Pick<Shadowed, 'octaves'>): boolean =>
  octaves === null || 2 * octaves.filter(({ db }) => db > NOT_DIRECT_DB).length > octaves.length;

const lostIn = (octaves: Shadowed['octaves']): number =>
  octaves === null ? Infinity : octaves.reduce((sum, { db }) => sum + db, 0);

/**
 * The players whom an array does not see, each by its capsule that is hidden most: an estimate after
 * Maekawa (1968) round every side of what stands between.
 */
export function shadowedAt(
  session: Session,
  array: MicArray,
  players: readonly Source[],
  screens: readonly Screen[] = screensOf(session),
): Shadowed[] {
  if (screens.length === 0) return [];
  const look = (source: Source): Shadowed | null => shadowOf(session, array, source, screens);
  const kept = keptFor(session, array);
  return players.flatMap((source): Shadowed[] => {
    const known = kept?.get(source);
    const shadowed = known === undefined ? look(source) : known;
    kept?.set(source, shadowed);
    return shadowed ? [shadowed] : [];
  });
}

type Kept = WeakMap<Source, Shadowed | null>;
const keptOf = new WeakMap<MicArray, { venue: Session['venue']; kept: Kept }>();

/** What was found for an array as it is, as long as the hall stays; where lids stand open nothing is kept. */
function keptFor({ venue, sources }: Session, array: MicArray): Kept | null {
  if (lidScreens(sources).length > 0) return null;
  const known = keptOf.get(array);
  if (known?.venue === venue) return known.kept;
  const kept: Kept = new WeakMap();
  keptOf.set(array, { venue, kept });
  return kept;
}

function shadowOf(
  session: Session,
  array: MicArray,
  source: Source,
  screens: readonly Screen[],
): Shadowed | null {
  const room = roomOf(session);
  const { speed } = contextOf(session);
  const { capsules } = readyArray(array);
  let worst: Shadowed | null = null;
  const behind = capsules.filter(({ position }) => isHidden(screens, source, position));
  // Of many the outermost two tell how far it goes.
  const looked = behind.length > 2 ? [behind[0], behind[behind.length - 1]] : behind;
  for (const capsule of looked) {
    if (!capsule) continue;
    const { position, label } = capsule;
    const shadow = shadowBetween(room, screens, source, position);
    if (!shadow) continue;
    const octaves = shadowByOctave(shadow.detoursM, speed);
    // What is narrower than any wavelength that is looked at hides nothing.
    if (octaves !== null && octaves.every(({ db }) => db < 1)) continue;
    if (worst && lostIn(worst.octaves) >= lostIn(octaves)) continue;
    const by = shadow.screens.map(({ name }) => name);
    worst = { source, capsule: label, hidden: 0, of: capsules.length, by, octaves };
  }
  return worst && { ...worst, hidden: behind.length };
}
