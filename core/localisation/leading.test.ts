import { describe, expect, it } from 'vitest';
import { distanceSweep, movementSensitivity, setUpTolerance } from '../analysis';
import { demoSession } from '../demo';
import { newArray } from '../session';
import {
  anglesIn,
  FALLBACK_MODEL,
  imageIn,
  leadingModel,
  leadingOf,
  shiftIn,
  speakingModel,
  stageIn,
} from './leading';

const demo = demoSession('2026-11-23T12:00:00.000Z');
const [spaced] = demo.arrays;
if (!spaced) throw new Error('the demo has a main pair');

describe('what leads', () => {
  it('is the session’s model where it has spoken, the fallback where it has not, else nothing', () => {
    expect(leadingOf({ consensus: 1, added: 2 }, 'added')).toBe(2);
    expect(leadingOf({ consensus: 1, added: 2 }, 'tangent')).toBe(1);
    expect(leadingOf({ added: 2 }, 'tangent')).toBeNull();
    expect(leadingOf(null, 'traded')).toBeNull();
    expect(leadingModel({ consensus: 1 }, 'tangent')).toBe(FALLBACK_MODEL);
    expect(leadingModel({ consensus: 1, tangent: 0 }, 'tangent')).toBe('tangent');
    expect(leadingModel(null, 'tangent')).toBe(FALLBACK_MODEL);
  });

  it('is taken of images, angles in place before the far field, and stages', () => {
    const place = { shift: 0.2, left: 0.1, right: 0.3 };
    expect(imageIn({ image: { consensus: place } }, 'tangent')).toBe(place);
    expect(shiftIn({ image: { consensus: place } }, 'traded')).toBe(0.2);
    expect(shiftIn({ image: null }, 'traded')).toBeNull();
    expect(shiftIn(null, 'traded')).toBeNull();
    const angle = (halfDeg: number) => ({
      halfDeg,
      half75Deg: null,
      widest: { shift: 1, atDeg: 1 },
    });
    const figures = { farField: { consensus: angle(40) }, inPlace: { consensus: angle(50) } };
    expect(anglesIn(figures, 'tangent')?.halfDeg).toBe(50);
    expect(anglesIn({ ...figures, inPlace: null }, 'traded')?.halfDeg).toBe(40);
    expect(anglesIn(null, 'traded')).toBeNull();
    const stage = { imageWidthPct: 1, largestGapPct: 2, atSpeakersPct: 3 };
    expect(stageIn({ stage: { consensus: stage } }, 'tangent')).toBe(stage);
  });

  it('never lets a model that knows levels alone speak for a time difference', () => {
    expect(speakingModel({ model: 'tangent' }, false).id).toBe(FALLBACK_MODEL);
    expect(speakingModel({ model: 'tangent' }, true).id).toBe('tangent');
    expect(speakingModel({ model: 'added' }, false).id).toBe('added');
    const inModel = (model: 'tangent' | 'consensus') => ({
      ...demo,
      settings: { ...demo.settings, model },
    });
    const [tangent, middle] = [inModel('tangent'), inModel('consensus')];
    expect(distanceSweep(tangent, spaced, [2, 5])).toEqual(distanceSweep(middle, spaced, [2, 5]));
    expect(movementSensitivity(tangent, spaced, 0.2)).toEqual(
      movementSensitivity(middle, spaced, 0.2),
    );
    expect(setUpTolerance(tangent, spaced, undefined, 100)).toEqual(
      setUpTolerance(middle, spaced, undefined, 100),
    );
    const crossed = newArray({
      ...spaced,
      technique: { kind: 'pair', pattern: 'figure-eight', spacingM: 0, includedAngleDeg: 90 },
    });
    expect(distanceSweep(tangent, crossed, [5])).not.toEqual(distanceSweep(middle, crossed, [5]));
  });
});
