import { mixedPair } from '../arrays/mixed-pair';
import { newArray } from '../session/create';
import type { MicArray, Source } from '../session/schema';
import { cosDeg, sinDeg } from '../units/guard';

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
  const centimetres = (metres: number): number => Math.round(metres * 100) / 100;
  const away = awayM > 0 ? awayM + Math.min(source.widthM, 0.6) / 4 : 0;
  return newArray({
    ...structuredClone(array),
    id,
    name,
    x: centimetres(source.x + away * sinDeg(source.facingDeg)),
    y: centimetres(source.y + away * cosDeg(source.facingDeg)),
    z: centimetres(source.z + overM),
    aimDeg: awayM > 0 ? turned(source.facingDeg) : 0,
    for: { kind: 'some', groups: [], sources: [source.id] },
  });
}

/** Back to the player: the other way than it plays, −180 … 180°. */
function turned(facingDeg: number): number {
  const back = facingDeg + 180;
  return back > 180 ? back - 360 : back;
}
