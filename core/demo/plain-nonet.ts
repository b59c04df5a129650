import { sessionFrom } from '../session/create';
import type { Session } from '../session/schema';

export const DEMO_ID = 'demo-nonet';

interface Player {
  name: string;
  group: string;
  kind: string;
  x: number;
  y: number;
  z: number;
  facingDeg: number;
  levelDb: number;
  q: number;
  widthM?: number;
}

const PLAYERS: readonly Player[] = [
  {
    name: 'Flute',
    group: 'Flute',
    kind: 'flute',
    x: -2.1,
    y: 1.5,
    z: 1.4,
    facingDeg: 128,
    levelDb: 86,
    q: 1.6,
    widthM: 0.5,
  },
  {
    name: 'Oboe 1',
    group: 'Oboes',
    kind: 'oboe',
    x: -1.75,
    y: 2.45,
    z: 1.1,
    facingDeg: 146,
    levelDb: 85,
    q: 2,
  },
  {
    name: 'Oboe 2',
    group: 'Oboes',
    kind: 'oboe',
    x: -1.2,
    y: 3.2,
    z: 1.1,
    facingDeg: 160,
    levelDb: 85,
    q: 2,
  },
  {
    name: 'Clarinet 1',
    group: 'Clarinets',
    kind: 'clarinet',
    x: 2.1,
    y: 1.5,
    z: 1.0,
    facingDeg: 232,
    levelDb: 87,
    q: 2,
  },
  {
    name: 'Clarinet 2',
    group: 'Clarinets',
    kind: 'clarinet',
    x: 1.75,
    y: 2.45,
    z: 1.0,
    facingDeg: 214,
    levelDb: 87,
    q: 2,
  },
  {
    name: 'Horn 1',
    group: 'Horns',
    kind: 'horn',
    x: -0.95,
    y: 4.5,
    z: 0.9,
    facingDeg: 172,
    levelDb: 92,
    q: 1.4,
  },
  {
    name: 'Horn 2',
    group: 'Horns',
    kind: 'horn',
    x: 0.95,
    y: 4.5,
    z: 0.9,
    facingDeg: 188,
    levelDb: 92,
    q: 1.4,
  },
  {
    name: 'Bassoon 1',
    group: 'Bassoons',
    kind: 'bassoon',
    x: 0.1,
    y: 3.55,
    z: 1.2,
    facingDeg: 180,
    levelDb: 86,
    q: 1.3,
  },
  {
    name: 'Bassoon 2',
    group: 'Bassoons',
    kind: 'bassoon',
    x: 1.1,
    y: 3.2,
    z: 1.2,
    facingDeg: 196,
    levelDb: 86,
    q: 1.3,
  },
];

/** A wind nonet on the upper floor of a granary: invented people, invented place. */
export function demoSession(now: string): Session {
  return sessionFrom({
    id: DEMO_ID,
    title: 'Sedge Lane Nonet, serenades',
    createdAt: now,
    updatedAt: now,
    brief: {
      date: '2026-12-12',
      programme: 'Two serenades for wind nonet',
      notes:
        'Timber floor, low beams over the back row. Tape points are the feet of the two posts. Natural balance wanted from one pair.',
      intent: { imageWidthPct: 90, room: 'balanced', mono: 'should-survive' },
      channelLimit: 8,
    },
    venue: {
      name: 'Osier Granary, upper floor',
      widthM: 14,
      depthM: 22,
      heightM: 5.8,
      origin: { x: 7, y: 13 },
      stage: { widthM: 9, depthM: 6 },
      datumPoints: [
        { id: 'a', name: 'A', x: -4, y: 3 },
        { id: 'b', name: 'B', x: 4, y: 3 },
      ],
      temperatureC: 19,
      rt60S: 1.5,
    },
    sources: PLAYERS.map((player, index) => ({ id: `p${index + 1}`, ...player })),
    arrays: [
      {
        id: 'main',
        name: 'Main pair',
        role: 'main',
        x: 0,
        y: -0.4,
        z: 2.7,
        tiltDeg: -15,
        technique: { kind: 'pair', pattern: 'cardioid', spacingM: 0.17, includedAngleDeg: 110 },
      },
    ],
  });
}
