import { BOUNDS } from '../session/bounds';
import type { Source } from '../session/schema';
import { clamp } from '../units/numbers';

/** Where an instrument radiates most of its brilliance, seen by its player. */
export type RadiatingSide = 'front' | 'right' | 'left' | 'behind' | 'up' | 'all round';

/**
 * A kind of instrument or voice as it stands on a stage: what a player brings along when placed.
 * Levels are typical for mezzo forte, to be replaced by what is heard on the day.
 */
export interface Instrument {
  kind: string;
  name: string;
  family: 'voice' | 'woodwind' | 'brass' | 'bowed' | 'plucked' | 'keyboard' | 'percussion';
  /** height at which it sounds above the player's floor, m */
  heightM: number;
  /** dB SPL at 1 m */
  levelDb: number;
  /** directivity factor towards its strong side */
  q: number;
  /** sounding width, m; 0 is a point */
  widthM: number;
  /** sounding depth along the way it faces, m; 0 or none where only its width counts */
  depthM?: number;
  /** what sounds at the ends of that width, left and right as the player sees it */
  ends?: { left: string; right: string };
  side: RadiatingSide;
  lid?: Source['lid'];
}

type Row = readonly [
  kind: string,
  name: string,
  heightM: number,
  levelDb: number,
  q: number,
  widthM: number,
  side: RadiatingSide,
];

const rows = (family: Instrument['family'], list: readonly Row[]): Instrument[] =>
  list.map(([kind, name, heightM, levelDb, q, widthM, side]) => ({
    kind,
    name,
    family,
    heightM,
    levelDb,
    q,
    widthM,
    side,
  }));

const KEYBOARDS: readonly Instrument[] = [
  {
    kind: 'grand piano',
    name: 'Grand piano',
    family: 'keyboard',
    heightM: 1.0,
    levelDb: 92,
    q: 1.8,
    widthM: 1.5,
    depthM: 1.6,
    ends: { left: 'bass', right: 'treble' },
    side: 'right',
    lid: 'full-stick',
  },
  {
    kind: 'upright piano',
    name: 'Upright piano',
    family: 'keyboard',
    heightM: 1.0,
    levelDb: 88,
    q: 1.4,
    widthM: 1.4,
    ends: { left: 'bass', right: 'treble' },
    side: 'behind',
  },
  {
    kind: 'harpsichord',
    name: 'Harpsichord',
    family: 'keyboard',
    heightM: 0.95,
    levelDb: 76,
    q: 1.8,
    widthM: 0.9,
    depthM: 1.6,
    ends: { left: 'bass', right: 'treble' },
    side: 'right',
    lid: 'full-stick',
  },
  {
    kind: 'chest organ',
    name: 'Chest organ',
    family: 'keyboard',
    heightM: 0.8,
    levelDb: 80,
    q: 1.2,
    widthM: 1.1,
    ends: { left: 'bass', right: 'treble' },
    side: 'front',
  },
  {
    kind: 'organ case',
    name: 'Organ case',
    family: 'keyboard',
    heightM: 4,
    levelDb: 96,
    q: 2,
    widthM: 5,
    ends: { left: 'C side', right: 'C sharp side' },
    side: 'front',
  },
];

const PERCUSSION: readonly Instrument[] = [
  {
    kind: 'percussion set-up',
    name: 'Percussion set-up',
    family: 'percussion',
    heightM: 1.0,
    levelDb: 95,
    q: 1.1,
    widthM: 2.6,
    ends: { left: 'low drums', right: 'small instruments' },
    side: 'up',
  },
  {
    kind: 'drum kit',
    name: 'Drum kit',
    family: 'percussion',
    heightM: 0.9,
    levelDb: 100,
    q: 1.1,
    widthM: 1.6,
    ends: { left: 'hi-hat', right: 'floor tom' },
    side: 'up',
  },
  {
    kind: 'marimba',
    name: 'Marimba',
    family: 'percussion',
    heightM: 0.95,
    levelDb: 85,
    q: 1.1,
    widthM: 2.4,
    ends: { left: 'bass', right: 'treble' },
    side: 'up',
  },
  {
    kind: 'timpani',
    name: 'Timpani',
    family: 'percussion',
    heightM: 0.9,
    levelDb: 95,
    q: 1.1,
    widthM: 2.2,
    ends: { left: 'low', right: 'high' },
    side: 'up',
  },
];

/** Pieces of a set-up, each to be placed and heard alone. */
export const PIECE_INSTRUMENTS: readonly Instrument[] = rows('percussion', [
  ['bass drum', 'Bass drum', 0.35, 98, 1.1, 0.5, 'front'],
  ['concert bass drum', 'Concert bass drum', 0.9, 98, 1.1, 0.8, 'all round'],
  ['snare drum', 'Snare drum', 0.65, 97, 1.1, 0, 'up'],
  ['high tom', 'High tom', 0.9, 94, 1.1, 0, 'up'],
  ['middle tom', 'Middle tom', 0.9, 94, 1.1, 0, 'up'],
  ['floor tom', 'Floor tom', 0.6, 95, 1.1, 0, 'up'],
  ['hi-hat', 'Hi-hat', 0.9, 90, 1.2, 0, 'up'],
  ['crash cymbal', 'Crash cymbal', 1.3, 96, 1.2, 0, 'up'],
  ['ride cymbal', 'Ride cymbal', 1.15, 90, 1.2, 0, 'up'],
  ['suspended cymbal', 'Suspended cymbal', 1.1, 92, 1.2, 0, 'up'],
  ['tam-tam', 'Tam-tam', 1.1, 95, 1.2, 0.6, 'front'],
  ['triangle', 'Triangle', 1.4, 84, 1, 0, 'all round'],
  ['glockenspiel', 'Glockenspiel', 0.85, 88, 1.2, 0.7, 'up'],
  ['timpano', 'Timpano', 0.85, 93, 1.1, 0.7, 'up'],
]);

const HARP: Instrument = {
  kind: 'harp',
  name: 'Harp',
  family: 'plucked',
  heightM: 1.0,
  levelDb: 80,
  q: 1.3,
  widthM: 0.9,
  ends: { left: 'treble', right: 'bass' },
  side: 'all round',
};

/** The catalogue, in score order. */
export const INSTRUMENTS: readonly Instrument[] = [
  ...rows('woodwind', [
    ['flute', 'Flute', 1.4, 86, 1.6, 0.5, 'right'],
    ['recorder', 'Recorder', 1.2, 80, 1.4, 0, 'front'],
    ['oboe', 'Oboe', 1.1, 85, 2, 0, 'front'],
    ['clarinet', 'Clarinet', 1.0, 87, 2, 0, 'front'],
    ['bassoon', 'Bassoon', 1.2, 86, 1.3, 0.6, 'up'],
    ['saxophone', 'Saxophone', 0.95, 92, 2.2, 0, 'front'],
  ]),
  ...rows('brass', [
    ['horn', 'Horn', 0.9, 92, 1.4, 0, 'behind'],
    ['trumpet', 'Trumpet', 1.3, 97, 4, 0, 'front'],
    ['trombone', 'Trombone', 1.2, 96, 4, 0, 'front'],
    ['tuba', 'Tuba', 1.5, 93, 1.6, 0, 'up'],
  ]),
  ...PERCUSSION,
  ...PIECE_INSTRUMENTS,
  HARP,
  ...rows('plucked', [
    ['guitar', 'Guitar', 0.8, 76, 1.6, 0.4, 'front'],
    ['lute', 'Lute', 0.85, 72, 1.5, 0.4, 'front'],
  ]),
  ...KEYBOARDS,
  ...rows('voice', [
    ['voice', 'Voice', 1.55, 85, 2, 0, 'front'],
    ['soprano', 'Soprano', 1.5, 86, 2, 0, 'front'],
    ['alto', 'Alto', 1.5, 84, 2, 0, 'front'],
    ['tenor', 'Tenor', 1.6, 86, 2, 0, 'front'],
    ['bass', 'Bass', 1.6, 85, 1.9, 0, 'front'],
  ]),
  ...rows('bowed', [
    ['violin', 'Violin', 1.25, 84, 1.6, 0, 'right'],
    ['viola', 'Viola', 1.2, 83, 1.6, 0, 'right'],
    ['cello', 'Cello', 0.7, 85, 1.6, 0.5, 'front'],
    ['double bass', 'Double bass', 0.9, 85, 1.3, 0.7, 'front'],
    ['viol', 'Viol', 0.7, 76, 1.6, 0.4, 'front'],
  ]),
];

const BY_KIND = new Map(INSTRUMENTS.map((instrument) => [instrument.kind, instrument]));

/** An instrument by its kind; null for one that the catalogue does not know. */
export function instrumentOf(kind: string): Instrument | null {
  return BY_KIND.get(kind.trim().toLowerCase()) ?? null;
}

/** What a kind of instrument brings along: height, width, level, directivity, ends, lid. */
export function instrumentFields(kind: string): Partial<Source> {
  const known = instrumentOf(kind);
  if (!known) return { kind };
  const { heightM, levelDb, q, widthM, depthM = 0, ends, lid } = known;
  return {
    kind: known.kind,
    z: heightM,
    levelDb,
    q,
    widthM,
    depthM,
    ends: ends ? { ...ends } : null,
    lid: lid ?? 'none',
  };
}

/** A level inside a session's limits, to a tenth. */
const inLimits = (db: number): number =>
  Math.round(clamp(db, BOUNDS.levelDb.min, BOUNDS.levelDb.max) * 10) / 10;

/**
 * A piano's lid and what it does to level and directivity, against the full stick.
 * Rule of thumb for the direct sound on the open side; a figure for planning, not a measurement.
 */
const LID_EFFECT: Readonly<Record<Exclude<Source['lid'], 'none'>, { levelDb: number; q: number }>> =
  {
    'full-stick': { levelDb: 0, q: 1.8 },
    'short-stick': { levelDb: -2, q: 1.5 },
    closed: { levelDb: -5, q: 1.1 },
    off: { levelDb: 0, q: 1.2 },
  };

/** The change that a lid makes to a source: level and directivity move with it. */
export function withLid(
  source: Pick<Source, 'lid' | 'levelDb'>,
  lid: Source['lid'],
): Partial<Source> {
  if (lid === 'none') return { lid };
  const before = source.lid === 'none' ? 0 : LID_EFFECT[source.lid].levelDb;
  const { levelDb, q } = LID_EFFECT[lid];
  return { lid, levelDb: inLimits(source.levelDb - before + levelDb), q };
}

/** Panels of an upright and felt, and what each does to its level, dB: a rule of thumb as well. */
const PANEL_DB: Readonly<Record<Source['openPanels'][number], number>> = {
  'top lid': 1,
  'upper panel': 2,
  'lower panel': 1,
};
const FELT_DB = -10;

/** The change that an opened panel or a lowered felt makes to a source, its level with it. */
export function withState(
  source: Pick<Source, 'openPanels' | 'felt' | 'levelDb'>,
  state: Partial<Pick<Source, 'openPanels' | 'felt'>>,
): Partial<Source> {
  const effect = ({ openPanels, felt }: Pick<Source, 'openPanels' | 'felt'>): number =>
    openPanels.reduce((total, panel) => total + PANEL_DB[panel], felt ? FELT_DB : 0);
  const changed = effect({ ...source, ...state }) - effect(source);
  return { ...state, levelDb: inLimits(source.levelDb + changed) };
}
