import { describe, expect, it } from 'vitest';
import { demoSessions } from '../core/demo';
import { newArray, type MicArray } from '../core/session';
import { lengthText } from '../core/units';
import { DETAIL_HEIGHT, detailDrawing } from './detail-drawing';
import { DRAWN_WIDTH } from './sheet-drawing';
import { sheetModel } from './sheet-model';

const drawn = (array: MicArray) =>
  detailDrawing(array, DRAWN_WIDTH, DETAIL_HEIGHT, (metres) => lengthText(metres, 'metric', 'bar'));
const words = (array: MicArray) =>
  drawn(array).shapes.flatMap((shape) => (shape.kind === 'text' ? [shape.words] : []));

const pairOf = (spacingM: number, includedAngleDeg: number): MicArray =>
  newArray({
    id: 'p',
    name: 'Pair',
    technique: { kind: 'pair', pattern: 'cardioid', spacingM, includedAngleDeg },
  });

describe('the drawing of one array', () => {
  it('says spacing, angle, labels and patterns', () => {
    expect(words(pairOf(0.17, 110))).toEqual(
      expect.arrayContaining(['17.0 cm', '110°', 'L cardioid', 'R cardioid', 'aim']),
    );
    expect(words(pairOf(0, 90))).toEqual(
      expect.arrayContaining(['at one point', 'L and R cardioid']),
    );
    expect(words({ ...pairOf(0.9, 0), tiltDeg: -90 })).toEqual(
      expect.arrayContaining(['parallel', 'aim, down']),
    );
  });

  it('is to scale and whole from a coincident pair to the widest', () => {
    for (const spacingM of [0, 0.003, 0.17, 1.2, 8, 50]) {
      for (const deg of [0, 90, 360]) {
        const { shapes } = drawn(pairOf(spacingM, deg));
        const points = shapes.flatMap((shape) =>
          shape.kind === 'line' ? [shape.from, shape.to] : [shape.at],
        );
        for (const [x, y] of points) {
          expect(x).toBeGreaterThanOrEqual(-1);
          expect(x).toBeLessThanOrEqual(DRAWN_WIDTH + 1);
          expect(y).toBeGreaterThanOrEqual(0);
          expect(y).toBeLessThanOrEqual(DETAIL_HEIGHT);
        }
      }
    }
  });

  it('of the demo sessions never prints words over words', () => {
    for (const session of demoSessions('2026-11-23T12:00:00.000Z')) {
      for (const array of session.arrays) {
        const boxes = drawn(array).shapes.flatMap((shape) => {
          if (shape.kind !== 'text') return [];
          const width = shape.words.length * shape.size * 0.5;
          const left = shape.middle ? shape.at[0] - width / 2 : shape.at[0];
          return [{ left, right: left + width, y: shape.at[1], words: shape.words }];
        });
        for (const [i, a] of boxes.entries()) {
          for (const b of boxes.slice(i + 1)) {
            const over = a.left < b.right && b.left < a.right && Math.abs(a.y - b.y) < 8;
            expect(over, `${array.name}: ${a.words} over ${b.words}`).toBe(false);
          }
        }
      }
    }
  });
});

describe('the sheet of an array on several stands', () => {
  it('names the stands and the loudspeakers, and no bar', () => {
    const [session] = demoSessions('2026-11-23T12:00:00.000Z');
    const array = newArray({
      ...pairOf(3.66, 0),
      name: 'Outriggers',
      equipment: {
        microphoneIds: [],
        pair: '',
        phantom: 'as needed',
        loadKg: null,
        loudspeakers: ['Ls'],
      },
    });
    if (!session) throw new Error('a demo session is expected');
    const [part] = sheetModel({ ...session, arrays: [array] }, false).parts;
    const text = part?.lines.join(' ') ?? '';
    expect(text).toContain('On 2 stands: Outriggers L, Outriggers R.');
    expect(text).toContain('Capsule to capsule 3.66 m');
    expect(text).toContain('within ±3.0 cm');
    expect(text).toContain('Loudspeakers: L → Ls.');
    expect(part?.bar.head).toContain('From the array’s centre');
  });
});
