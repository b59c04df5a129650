import { instrumentFields } from '../ensembles/instruments';
import { starterKit } from '../kit/starter';
import { sessionFrom } from '../session/create';
import type { Session } from '../session/schema';

/** A harpsichord with a viol in a panelled room: invented people, invented place. */
export function keyboardDemo(now: string): Session {
  return sessionFrom({
    id: 'demo-harpsichord',
    title: 'Harpsichord and viol, three suites',
    createdAt: now,
    updatedAt: now,
    brief: {
      date: '2027-03-20',
      programme: 'Three suites for viol with harpsichord',
      notes: 'Quiet instruments: keep close, keep the room’s ventilation off while takes run.',
      intent: {
        imageWidthPct: 70,
        room: 'close',
        mono: 'should-survive',
        bands: [
          { sourceId: 'viol', fromPct: -85, toPct: -35 },
          { sourceId: 'harpsichord', fromPct: 5, toPct: 50 },
        ],
      },
      channelLimit: 6,
      people: [{ name: 'Tobin Marsh', role: 'engineer' }],
      storage: { bitDepth: '24', hours: 4, tracks: null },
      timetable: {
        start: '10:00',
        end: '18:00',
        breakAfterMin: 60,
        breakMin: 15,
        entries: [
          { id: 'd1', title: 'Load in', kind: 'load-in', minutes: 25 },
          { id: 'd2', title: 'Build', kind: 'build', minutes: 40 },
          { id: 'd3', title: 'Tuning', kind: 'other', minutes: 30 },
          { id: 'd4', title: 'Line check', kind: 'line-check', minutes: 10 },
          { id: 'd5', title: 'First suite', kind: 'take', minutes: 60, playing: true },
          { id: 'd6', title: 'Break, tuning', kind: 'break', minutes: 25 },
          { id: 'd7', title: 'Second suite', kind: 'take', minutes: 60, playing: true },
          { id: 'd8', title: 'Break, tuning', kind: 'break', minutes: 40 },
          { id: 'd9', title: 'Third suite', kind: 'take', minutes: 60, playing: true },
          { id: 'd10', title: 'Strike', kind: 'strike', minutes: 30 },
        ],
      },
    },
    venue: {
      name: 'Panelled room, Fallow House',
      widthM: 7.5,
      depthM: 10,
      heightM: 4,
      origin: { x: 3.75, y: 4.5 },
      stage: { widthM: 5, depthM: 4.5 },
      datumPoints: [
        { id: 'a', name: 'A', x: -3.5, y: 4.2 },
        { id: 'b', name: 'B', x: 3.5, y: 4.2 },
      ],
      temperatureC: 20,
      rt60S: 0.9,
      surfaces: [
        { surface: 'floor', name: 'oak boards', absorption: 0.08 },
        { surface: 'ceiling', name: 'plaster', absorption: 0.04 },
        { surface: 'left', name: 'panelling', absorption: 0.14 },
        { surface: 'right', name: 'panelling, windows', absorption: 0.14 },
        { surface: 'front', name: 'curtain', absorption: 0.4 },
        { surface: 'back', name: 'panelling', absorption: 0.14 },
      ],
      obstacles: [
        {
          id: 'hearth',
          name: 'Hearth',
          kind: 'furniture',
          x: -3.3,
          y: 1.5,
          widthM: 0.8,
          depthM: 1.8,
          heightM: 1.3,
          turnDeg: 0,
        },
      ],
    },
    sources: [
      {
        ...instrumentFields('viol'),
        id: 'viol',
        name: 'Viol',
        group: 'Viol',
        x: -0.85,
        y: 1.5,
        facingDeg: 172,
        constraints: [{ kind: 'near', sourceId: 'harpsichord', mostM: 2.5 }],
      },
      {
        ...instrumentFields('harpsichord'),
        id: 'harpsichord',
        name: 'Harpsichord',
        group: 'Harpsichord',
        x: 0.65,
        y: 2.2,
        facingDeg: 90,
        coverage: 'stereo',
      },
    ],
    arrays: [
      {
        id: 'main',
        name: 'Main pair',
        role: 'main',
        x: -0.05,
        y: -0.2,
        z: 1.7,
        tiltDeg: -14,
        technique: { kind: 'pair', pattern: 'cardioid', spacingM: 0.2, includedAngleDeg: 90 },
      },
      {
        id: 'harp-spot',
        name: 'Harpsichord spot',
        role: 'spot',
        x: 0.5,
        y: 1.3,
        z: 1.5,
        tiltDeg: -30,
        technique: { kind: 'single', pattern: 'cardioid' },
        mix: { faderDb: -14, capsules: [{ pan: 0.4, delayMs: 3 }] },
      },
    ],
    kit: starterKit(),
  });
}
