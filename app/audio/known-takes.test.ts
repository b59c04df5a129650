import { expect, it } from 'vitest';
import { sceneOf } from '../../core/audio/listen/scene';
import { demoSession } from '../../core/demo';
import type { Session } from '../../core/session';
import { contentOf } from './known-takes';

const DEMO = demoSession('2026-01-01T00:00:00Z');

const contentWith = (treble: number): string => {
  const session: Session = {
    ...DEMO,
    venue: {
      ...DEMO.venue,
      surfaces: [{ surface: 'floor', name: 'carpet', absorption: { '1000': 0.3, '8000': treble } }],
    },
  };
  const scene = sceneOf(session, 'mix', 48_000);
  if (!scene.ok) throw new Error(scene.message);
  return contentOf(scene.value);
};

it('what a surface absorbs in one octave alone makes another sound', () => {
  expect(contentWith(0.5)).toBe(contentWith(0.5));
  expect(contentWith(0.5)).not.toBe(contentWith(0.8));
});
