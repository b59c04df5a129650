import { describe, expect, it } from 'vitest';
import { demoSession } from '../demo';
import { mixesOf, readMixes } from './blends';

describe('kept blends', () => {
  it('come back as they were, also through JSON, and apart from the plan', () => {
    const { arrays } = demoSession('2026-01-01T00:00:00Z');
    const kept = mixesOf({ arrays });
    expect(Object.keys(kept)).toEqual(arrays.map(({ id }) => id));
    expect(readMixes(JSON.parse(JSON.stringify(kept)) as Record<string, unknown>)).toEqual(kept);
    const [first] = arrays;
    expect(kept[first?.id ?? '']).not.toBe(first?.mix);
  });

  it('what is no mix is left out, what lacks parts has the usual ones', () => {
    expect(readMixes({ a: 7, b: { faderDb: 99 }, c: { faderDb: -3 } })).toEqual({
      c: { faderDb: -3, mute: false, capsules: [] },
    });
  });
});
