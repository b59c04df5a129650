import { sessionFrom } from '../session/create';
import type { Kit } from '../session/schema';

/** A small travelling kit, described by kind, to begin a list with. */
export function starterKit(): Kit {
  return sessionFrom({
    kit: {
      microphones: [
        {
          id: 'k1',
          name: 'Small cardioid, matched pair 1',
          kind: 'small condenser',
          patterns: ['cardioid'],
          count: 2,
          matched: true,
          sensitivityMvPa: 12,
          maxSplDb: 136,
          phantom: 'needs',
          address: 'end',
        },
        {
          id: 'k2',
          name: 'Small omni, matched pair 2',
          kind: 'small condenser',
          patterns: ['omni'],
          count: 2,
          matched: true,
          sensitivityMvPa: 14,
          maxSplDb: 138,
          phantom: 'needs',
          address: 'end',
        },
        {
          id: 'k3',
          name: 'Large switchable',
          kind: 'large condenser',
          patterns: ['omni', 'subcardioid', 'cardioid', 'hypercardioid', 'figure-eight'],
          count: 2,
          matched: false,
          sensitivityMvPa: 20,
          maxSplDb: 134,
          phantom: 'needs',
          address: 'side',
        },
        {
          id: 'k4',
          name: 'Passive ribbon',
          kind: 'ribbon',
          patterns: ['figure-eight'],
          count: 1,
          sensitivityMvPa: 2.2,
          maxSplDb: 140,
          phantom: 'must not',
          address: 'side',
        },
        {
          id: 'k5',
          name: 'Spot cardioid',
          kind: 'small condenser',
          patterns: ['cardioid'],
          count: 4,
          sensitivityMvPa: 10,
          maxSplDb: 140,
          phantom: 'needs',
          address: 'end',
        },
      ],
      stands: [
        {
          id: 't1',
          name: 'Tall stand',
          count: 3,
          minHeightM: 1.6,
          maxHeightM: 4,
          reachM: 1,
          baseM: 0.6,
          massKg: 9,
        },
        {
          id: 't2',
          name: 'Boom stand',
          count: 4,
          minHeightM: 0.9,
          maxHeightM: 2.2,
          reachM: 0.8,
          baseM: 0.35,
          massKg: 3.5,
        },
        {
          id: 't3',
          name: 'Short stand',
          count: 2,
          minHeightM: 0.25,
          maxHeightM: 0.6,
          reachM: 0.4,
          baseM: 0.15,
          massKg: 2,
        },
      ],
      bars: [
        { id: 'r1', name: 'Short bar', count: 1, mostSpacingM: 0.3 },
        { id: 'r2', name: 'Long bar', count: 1, mostSpacingM: 1 },
      ],
      preampChannels: 8,
      recorderTracks: 8,
    },
  }).kit;
}

/** The starter kit for all that a kit does not say yet; what was listed already stays. */
export function completedKit(own: Kit): Kit {
  const empty = sessionFrom({}).kit;
  const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
  const said = Object.entries(own).filter(([key, value]) => !same(value, empty[key]));
  return { ...starterKit(), ...Object.fromEntries(said) };
}
