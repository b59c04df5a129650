import { arrivalsOf, proposedStrips } from '../analysis/arrivals';
import { mixedPair } from '../arrays/mixed-pair';
import { anatomyOf, surfacesOf } from '../ensembles/anatomy';
import { instrumentOf, type Instrument } from '../ensembles/instruments';
import { newArray } from '../session/create';
import type { MicArray, Session, Source } from '../session/schema';
import { cosDeg, sinDeg, toDeg } from '../units/guard';
import type { Vec3 } from '../units/vector';

/** A customary way to take one instrument, by the part that it plays. */
export interface Preset {
  id: string;
  /** what it is, as it stands in a list */
  name: string;
  /** when, and why */
  reason: string;
  /** distance from the instrument towards where it plays, and height over its sound, m */
  awayM: number;
  overM: number;
  array: Partial<MicArray> & Pick<MicArray, 'technique' | 'role'>;
}

const pair = (spacingM: number, includedAngleDeg: number): MicArray['technique'] => ({
  kind: 'pair',
  pattern: 'cardioid',
  spacingM,
  includedAngleDeg,
});
const single: MicArray['technique'] = { kind: 'single', pattern: 'cardioid' };
const mixed = (): MicArray['technique'] => ({
  kind: 'custom',
  capsules: mixedPair('omni', 'cardioid', 0.3, 40).capsules.map((capsule) => ({ ...capsule })),
});

/** Kits and set-ups that are looked at from above. */
const FROM_ABOVE = /drum kit|percussion/;

const overheads = (spacingM: number): Preset['array'] => ({
  role: 'overhead',
  tiltDeg: -90,
  technique: pair(spacingM, 0),
});

const KIT_PRESETS: readonly Preset[] = [
  {
    id: 'whole-kit',
    name: 'Overheads for the whole kit',
    reason:
      'They are the picture and the spots only help: so high that every part is about equally near.',
    awayM: 0,
    overM: 1.3,
    array: overheads(0.9),
  },
  {
    id: 'cymbals',
    name: 'Overheads for the cymbals',
    reason:
      'The drums have microphones of their own: lower and wider, to be cut below some 300 Hz.',
    awayM: 0,
    overM: 0.8,
    array: overheads(1.2),
  },
];

const SONG_PRESETS: readonly Preset[] = [
  {
    id: 'sparse',
    name: 'Alone or nearly: a pair of two patterns',
    reason: 'With nothing beside it its body, its width and some room are wanted.',
    awayM: 0.6,
    overM: 0.1,
    array: { role: 'spot', technique: mixed() },
  },
  {
    id: 'light',
    name: 'With a voice: two small ones, crossed',
    reason: 'Width without a comb in mono, and out of the middle, where the voice is.',
    awayM: 0.5,
    overM: 0.1,
    array: { role: 'spot', technique: pair(0, 90) },
  },
  {
    id: 'full',
    name: 'In a band: one large one',
    reason: 'One place in the picture; the body of the sound, without the room.',
    awayM: 0.4,
    overM: 0.1,
    array: { role: 'spot', technique: single },
  },
  {
    id: 'dense',
    name: 'In a dense song: one small one, close',
    reason: 'Only the attack is left to be heard: the closest, the least spill.',
    awayM: 0.25,
    overM: 0.05,
    array: { role: 'spot', technique: single },
  },
];

/** The customary ways for an instrument, a practice and no physics. */
export const presetsFor = ({ kind }: Pick<Source, 'kind'>): readonly Preset[] =>
  FROM_ABOVE.test(kind) ? KIT_PRESETS : SONG_PRESETS;

/** A preset's microphones where they belong for a player, for that player alone. */
export function presetArray(preset: Preset, source: Source, id: string, name: string): MicArray {
  const { awayM, overM, array } = preset;
  const away = awayM > 0 ? awayM + Math.min(source.widthM, 0.6) / 4 : 0;
  return newArray({
    ...structuredClone(array),
    id,
    name,
    x: centimetres(source.x + away * sinDeg(source.facingDeg)),
    y: centimetres(source.y + away * cosDeg(source.facingDeg)),
    z: centimetres(source.z + overM),
    aimDeg: awayM > 0 ? turned(source.facingDeg) : 0,
    measuredFrom: setOutFrom(source, centimetres(source.z + overM)),
    for: { kind: 'some', groups: [], sources: [source.id] },
  });
}

/**
 * The surface that a microphone over an instrument is set out from: the first that the catalogue
 * names, where there is one below it; of a set of pieces none is that of the whole.
 */
function setOutFrom(source: Source, heightM: number): MicArray['measuredFrom'] {
  const anatomy = anatomyOf(source);
  if (anatomy && anatomy.outline.length === 0) return null;
  const [surface] = surfacesOf(source);
  return surface && surface.heightM < heightM
    ? { sourceId: source.id, surface: surface.name }
    : null;
}

/** The same, where it is a spot with the level, pan and delay that join it to the main array's image. */
export function presetFor(
  session: Session,
  preset: Preset,
  source: Source,
  id: string,
  name: string,
): MicArray {
  const array = presetArray(preset, source, id, name);
  if (array.role !== 'spot') return array;
  return inTheImage(session, source, {
    ...array,
    mix: { ...array.mix, faderDb: SPOT_FADER_DB },
  });
}

/** How far a spot customarily stands from what plays, m, and how far over it. */
interface SpotPlace {
  awayM: number;
  overM: number;
}

const BY_FAMILY: Readonly<Record<Instrument['family'], SpotPlace>> = {
  bowed: { awayM: 0.5, overM: 0.6 },
  woodwind: { awayM: 0.5, overM: 0.4 },
  brass: { awayM: 0.8, overM: 0.2 },
  voice: { awayM: 0.45, overM: 0.15 },
  plucked: { awayM: 0.4, overM: 0.1 },
  keyboard: { awayM: 0.6, overM: 0.5 },
  percussion: { awayM: 0.6, overM: 0.4 },
};
const UNKNOWN_PLACE: SpotPlace = { awayM: 0.5, overM: 0.4 };
const SPOT_FADER_DB = -6;

const centimetres = (metres: number): number => Math.round(metres * 100) / 100;
const tenths = (deg: number): number => Math.round(deg * 10) / 10 || 0;

/** Looks at a player from a place: aim and tilt, degrees. */
function lookingAt(at: Vec3, source: Source): Pick<MicArray, 'aimDeg' | 'tiltDeg'> {
  const [dx, dy, dz] = [source.x - at.x, source.y - at.y, source.z - at.z];
  return {
    aimDeg: tenths(toDeg(Math.atan2(dx, dy))),
    tiltDeg: tenths(toDeg(Math.atan2(dz, Math.hypot(dx, dy)))),
  };
}

/**
 * A spot for one player: before it where its instrument is customarily taken, looking at it, panned
 * and delayed so that it joins the main array's image. Without a main array it is only placed.
 */
export function spotFor(session: Session, source: Source, id: string, name: string): MicArray {
  const family = instrumentOf(source.kind)?.family;
  const { awayM, overM } = family ? BY_FAMILY[family] : UNKNOWN_PLACE;
  const spot = lookingSpot(source, id, name, {
    x: centimetres(source.x + awayM * sinDeg(source.facingDeg)),
    y: centimetres(source.y + awayM * cosDeg(source.facingDeg)),
    z: centimetres(source.z + overM),
  });
  return inTheImage(session, source, spot);
}

function lookingSpot(source: Source, id: string, name: string, at: Vec3): MicArray {
  return newArray({
    id,
    name,
    role: 'spot',
    ...at,
    ...lookingAt(at, source),
    measuredFrom: setOutFrom(source, at.z),
    technique: single,
    mix: { faderDb: SPOT_FADER_DB, mute: false, capsules: [] },
    for: { kind: 'some', groups: [], sources: [source.id] },
  });
}

/** With the pan and the delay that put it with the main array, where there is one. */
function inTheImage(session: Session, source: Source, spot: MicArray): MicArray {
  const { proposals } = arrivalsOf({ ...session, arrays: [...session.arrays, spot] }, source);
  const proposal = proposals.find(({ arrayId }) => arrayId === spot.id);
  if (!proposal) return spot;
  return {
    ...spot,
    mix: { ...spot.mix, capsules: proposedStrips(spot, proposal).map((strip) => ({ ...strip })) },
  };
}

/** Parts of a kit that have a microphone of their own, seen by the player: right, ahead, up, m. */
const KIT_PARTS = [
  { name: 'bass drum', right: 0, ahead: 0.9, up: 0.35, at: { right: 0, ahead: 0.5, up: 0.35 } },
  {
    name: 'snare drum',
    right: -0.45,
    ahead: 0.35,
    up: 0.85,
    at: { right: -0.25, ahead: 0.1, up: 0.65 },
  },
] as const;

/** Whether a player sits at a kit, whose parts have microphones of their own. */
export const isKit = ({ kind }: Pick<Source, 'kind'>): boolean => /drum kit/.test(kind);

/**
 * The customary set for a kit: a pair over the whole of it, and a spot each for bass drum and snare
 * drum, delayed to the main array.
 * @param idOf gives a fresh id for each
 */
export function kitSet(session: Session, source: Source, idOf: () => string): MicArray[] {
  const [whole] = KIT_PRESETS;
  const [ahead, right] = [source.facingDeg, source.facingDeg + 90];
  const floorM = source.z - (instrumentOf(source.kind)?.heightM ?? source.z);
  const place = (part: { right: number; ahead: number; up: number }): Vec3 => ({
    x: centimetres(source.x + part.ahead * sinDeg(ahead) + part.right * sinDeg(right)),
    y: centimetres(source.y + part.ahead * cosDeg(ahead) + part.right * cosDeg(right)),
    z: centimetres(floorM + part.up),
  });
  const over = whole ? [presetArray(whole, source, idOf(), `${source.name} overheads`)] : [];
  const spots = KIT_PARTS.map((part) => {
    const from = place(part);
    const spot = lookingSpot(source, idOf(), `${source.name} ${part.name}`, from);
    return {
      ...inTheImage(session, source, spot),
      ...lookingAt(from, { ...source, ...place(part.at) }),
    };
  });
  return [...over, ...spots];
}

/** Back to the player: the other way than it plays, −180 … 180°. */
function turned(facingDeg: number): number {
  const back = facingDeg + 180;
  return back > 180 ? back - 360 : back;
}
