import { outlineOf } from '../units/outlines';
import { instrumentFields } from '../ensembles/instruments';
import { sectionSources } from '../ensembles/from-template';
import { starterKit } from '../kit/starter';
import { sectionFrom, sessionFrom } from '../session/create';
import type { Session } from '../session/schema';

/** Four sections of four on one arc around the datum, each with the angle of its middle. */
const SECTIONS = [
  ['sopranos', 'Sopranos', 'soprano', -45],
  ['altos', 'Altos', 'alto', -15],
  ['tenors', 'Tenors', 'tenor', 15],
  ['basses', 'Basses', 'bass', 45],
] as const;
const RADIUS_M = 4.6;
const PITCH_M = 0.6;

/** A chamber choir with a chest organ in an octagonal chapel: invented people, invented place. */
export function choirDemo(now: string): Session {
  let next = 0;
  const idOf = () => `v${(next += 1)}`;
  const sections = SECTIONS.map(([id, name, kind, deg]) =>
    sectionFrom({
      id,
      name,
      kind,
      shape: 'arc',
      count: 4,
      rows: 1,
      pitchM: PITCH_M,
      openingDeg: Math.round(((3 * PITCH_M) / RADIUS_M) * (180 / Math.PI)),
      x: Math.round(RADIUS_M * Math.sin((deg * Math.PI) / 180) * 100) / 100,
      y: Math.round(RADIUS_M * Math.cos((deg * Math.PI) / 180) * 100) / 100,
      facingDeg: 180 + deg,
    }),
  );
  const organ = {
    ...instrumentFields('chest organ'),
    id: 'organ',
    name: 'Chest organ',
    group: 'Organ',
    x: 0.2,
    y: 2.4,
    facingDeg: 180,
  };
  return sessionFrom({
    id: 'demo-choir',
    title: 'Reedmace Voices, evensong pieces',
    createdAt: now,
    updatedAt: now,
    settings: { model: 'added' },
    brief: {
      date: '2027-02-06',
      programme: 'Five short pieces for sixteen voices and organ',
      notes:
        'The chapel is eight-sided: its walls answer together in the middle. Organ in the middle of the arc, voices behind it.',
      intent: { imageWidthPct: 85, room: 'roomy', mono: 'should-survive' },
      channelLimit: 8,
      people: [
        { name: 'Ada Quillfeather', role: 'engineer' },
        { name: 'Brother Odo Lantry', role: 'keyholder' },
      ],
      storage: { bitDepth: '24', hours: 3, tracks: null },
      timetable: {
        start: '13:00',
        end: '19:30',
        breakAfterMin: 60,
        breakMin: 20,
        entries: [
          { id: 'd1', title: 'Load in', kind: 'load-in', minutes: 30 },
          { id: 'd2', title: 'Build', kind: 'build', minutes: 50 },
          { id: 'd3', title: 'Line check', kind: 'line-check', minutes: 15 },
          { id: 'd4', title: 'Pieces one to three', kind: 'take', minutes: 60, playing: true },
          { id: 'd5', title: 'Break', kind: 'break', minutes: 25 },
          { id: 'd6', title: 'Pieces four and five', kind: 'take', minutes: 55, playing: true },
          { id: 'd7', title: 'Strike', kind: 'strike', minutes: 40 },
        ],
      },
    },
    venue: {
      name: 'Chapel at Withy End',
      widthM: 12,
      depthM: 12,
      heightM: 9,
      shape: { corners: outlineOf('octagon', 12, 12) },
      origin: { x: 6, y: 5 },
      stage: { widthM: 8, depthM: 5 },
      datumPoints: [
        { id: 'a', name: 'A', x: -4, y: 5 },
        { id: 'b', name: 'B', x: 4, y: 5 },
      ],
      temperatureC: 15,
      rt60S: { 125: 2.9, 250: 2.8, 500: 2.6, 1000: 2.5, 2000: 2.2, 4000: 1.7 },
      surfaces: [
        { surface: 'floor', name: 'stone', absorption: 0.03 },
        { surface: 'ceiling', name: 'plastered vault', absorption: 0.04 },
        { surface: 'left', name: 'plaster', absorption: 0.03 },
        { surface: 'right', name: 'plaster', absorption: 0.03 },
        { surface: 'front', name: 'doors, curtain', absorption: 0.2 },
        { surface: 'back', name: 'plaster, window', absorption: 0.04 },
      ],
      seats: [
        {
          id: 'pews',
          name: 'Pews',
          x: 0,
          y: -2.6,
          columns: 10,
          rows: 2,
          pitchM: 0.6,
          rowPitchM: 1,
        },
      ],
    },
    sections,
    sources: [...sections.flatMap((section) => sectionSources(section, idOf)), organ],
    arrays: [
      {
        id: 'main',
        name: 'Main pair',
        role: 'main',
        x: 0,
        y: -0.2,
        z: 2.6,
        tiltDeg: -12,
        technique: { kind: 'pair', pattern: 'subcardioid', spacingM: 0.24, includedAngleDeg: 90 },
      },
      {
        id: 'out',
        name: 'Outriggers',
        role: 'outrigger',
        x: 0,
        y: 0.6,
        z: 2.6,
        technique: { kind: 'pair', pattern: 'omni', spacingM: 4.6, includedAngleDeg: 0 },
        mix: { faderDb: -8 },
      },
      {
        id: 'organ-spot',
        name: 'Organ spot',
        role: 'spot',
        x: 0.2,
        y: 1.5,
        z: 1,
        technique: { kind: 'single', pattern: 'cardioid' },
        mix: { faderDb: -12, capsules: [{ pan: 0.05 }] },
      },
    ],
    kit: {
      ...starterKit(),
      microphones: [
        {
          id: 'k0',
          name: 'Small subcardioid, matched pair',
          patterns: ['subcardioid'],
          count: 2,
          matched: true,
          sensitivityMvPa: 15,
          maxSplDb: 135,
        },
        ...starterKit().microphones,
      ],
    },
  });
}
