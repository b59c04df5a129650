import { starterKit } from '../kit/starter';
import type { Session } from '../session/schema';
import { demoSession } from './plain-nonet';

/** The wind nonet with everything that a day's plan holds. */
export function nonetDemo(now: string): Session {
  const base = demoSession(now);
  return {
    ...base,
    brief: {
      ...base.brief,
      people: [
        { name: 'Ada Quillfeather', role: 'engineer', mustHear: false },
        { name: 'Tobin Marsh', role: 'assistant', mustHear: false },
        { name: 'Ines Halloway', role: 'first oboe, speaks for the players', mustHear: true },
      ],
      intent: {
        ...base.brief.intent,
        bands: [
          { sourceId: 'p1', fromPct: -100, toPct: -80 },
          { sourceId: 'p4', fromPct: 80, toPct: 100 },
          { sourceId: 'p8', fromPct: -20, toPct: 20 },
        ],
      },
      storage: { bitDepth: '24', hours: 3.5, tracks: 4 },
      timetable: {
        start: '09:30',
        end: '17:00',
        breakAfterMin: 75,
        breakMin: 15,
        entries: [
          { id: 'd1', title: 'Load in', kind: 'load-in', minutes: 40, playing: false },
          { id: 'd2', title: 'Build', kind: 'build', minutes: 60, playing: false },
          { id: 'd3', title: 'Line check', kind: 'line-check', minutes: 15, playing: false },
          { id: 'd4', title: 'First serenade', kind: 'take', minutes: 70, playing: true },
          { id: 'd5', title: 'Break', kind: 'break', minutes: 20, playing: false },
          { id: 'd6', title: 'Second serenade', kind: 'take', minutes: 70, playing: true },
          { id: 'd7', title: 'Break', kind: 'break', minutes: 20, playing: false },
          { id: 'd8', title: 'Patches', kind: 'take', minutes: 45, playing: true },
          { id: 'd9', title: 'Strike', kind: 'strike', minutes: 45, playing: false },
        ],
      },
    },
    venue: {
      ...base.venue,
      surfaces: [
        { surface: 'floor', name: 'timber', absorption: 0.08 },
        { surface: 'ceiling', name: 'boards and beams', absorption: 0.12 },
        { surface: 'left', name: 'brick', absorption: 0.05 },
        { surface: 'right', name: 'brick, windows', absorption: 0.06 },
        { surface: 'front', name: 'sacks and hangings', absorption: 0.45 },
        { surface: 'back', name: 'brick', absorption: 0.05 },
      ],
      obstacles: [
        {
          id: 'post-a',
          name: 'Post',
          kind: 'column',
          x: -4,
          y: 3,
          widthM: 0.3,
          depthM: 0.3,
          heightM: 5.8,
          baseM: 0,
          turnDeg: 0,
        },
        {
          id: 'post-b',
          name: 'Post',
          kind: 'column',
          x: 4,
          y: 3,
          widthM: 0.3,
          depthM: 0.3,
          heightM: 5.8,
          baseM: 0,
          turnDeg: 0,
        },
      ],
    },
    sources: base.sources.map((source) =>
      source.id === 'p8'
        ? { ...source, constraints: [{ kind: 'sees' as const, sourceId: 'p2' }] }
        : source,
    ),
    kit: starterKit(),
  };
}
