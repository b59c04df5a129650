import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { freeSpot, placeLabels, type LabelRequest } from './label-placement';
import { zoomAt, viewOf, projection, boxAround } from '../../../paper/projection';

interface Point {
  x: number;
  y: number;
}

const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });

describe('the plan’s window', () => {
  const view = fc.record({ x: number(-50, 50), y: number(-50, 50), scale: number(3, 900) });

  it('leads from the plan to the screen and back', () => {
    fc.assert(
      fc.property(view, number(-60, 60), number(-60, 60), (v, x, y) => {
        const p = projection(v, 900, 600);
        expect(p.fromX(p.toX(x))).toBeCloseTo(x, 6);
        expect(p.fromY(p.toY(y))).toBeCloseTo(y, 6);
      }),
    );
  });

  it('puts upstage up and the audience’s right on the right', () => {
    const p = projection({ x: 0, y: 0, scale: 100 }, 900, 600);
    expect(p.toX(1)).toBe(550);
    expect(p.toY(1)).toBe(200);
  });

  it('zooms about the pointer: what is under it stays there', () => {
    fc.assert(
      fc.property(view, number(0.5, 2), number(0, 900), number(0, 600), (v, factor, px, py) => {
        const before = projection(v, 900, 600);
        const after = projection(zoomAt(v, factor, px, py, 900, 600), 900, 600);
        expect(after.fromX(px)).toBeCloseTo(before.fromX(px), 6);
        expect(after.fromY(py)).toBeCloseTo(before.fromY(py), 6);
      }),
    );
  });

  it('never zooms so far that nothing can be found again', () => {
    let v = { x: 0, y: 0, scale: 100 };
    for (let i = 0; i < 60; i++) v = zoomAt(v, 2, 0, 0, 900, 600);
    expect(v.scale).toBe(1200);
    for (let i = 0; i < 60; i++) v = zoomAt(v, 0.5, 0, 0, 900, 600);
    expect(v.scale).toBe(2);
  });

  it('shows a box whole, with its margin', () => {
    const points = [
      { x: -4, y: 0 },
      { x: 6, y: 5 },
    ];
    const p = projection(viewOf(boxAround(points, 1), 900, 600), 900, 600);
    for (const { x, y } of points) {
      expect(p.toX(x)).toBeGreaterThanOrEqual(p.scale - 1e-6);
      expect(p.toX(x)).toBeLessThanOrEqual(900 - p.scale + 1e-6);
      expect(p.toY(y)).toBeGreaterThanOrEqual(p.scale - 1e-6);
      expect(p.toY(y)).toBeLessThanOrEqual(600 - p.scale + 1e-6);
    }
  });
});

describe('labels', () => {
  const request = (
    id: string,
    x: number,
    y: number,
    change: Partial<LabelRequest> = {},
  ): LabelRequest => ({
    id,
    x,
    y,
    radius: 15,
    text: 'Clarinet 1',
    prefer: 'below',
    important: false,
    ...change,
  });

  it('stand below, or above where that is preferred', () => {
    const placed = placeLabels([
      request('a', 100, 100),
      request('b', 400, 100, { prefer: 'above' }),
    ]);
    expect(placed.get('a')?.y).toBeGreaterThan(115);
    expect(placed.get('b')?.y).toBeLessThan(85);
  });

  it('move aside for a mark that is in the way', () => {
    const placed = placeLabels([request('a', 100, 100), request('b', 100, 132)]);
    expect(placed.get('a')?.y).toBeLessThan(100);
  });

  it('leave out what has no room, but never the one that is looked at', () => {
    const crowd = Array.from({ length: 25 }, (_, i) =>
      request(`p${i}`, 100 + (i % 5) * 12, 100 + Math.floor(i / 5) * 12, { important: i === 12 }),
    );
    const placed = placeLabels(crowd);
    expect(placed.has('p12')).toBe(true);
    expect(placed.size).toBeLessThan(25);
  });

  it('are placed the same with the others or alone, when they come first', () => {
    const crowd = Array.from({ length: 12 }, (_, i) =>
      request(`p${i}`, 100 + (i % 4) * 40, 100 + Math.floor(i / 4) * 34, { important: i === 5 }),
    );
    const alone = placeLabels(crowd, { importantOnly: true });
    expect([...alone.keys()]).toEqual(['p5']);
    expect(alone.get('p5')).toEqual(placeLabels(crowd).get('p5'));
  });

  it('stay inside the drawing, and off what is written there already', () => {
    const bounds = { width: 400, height: 200 };
    const wide = request('a', 20, 100, { text: 'Main pair · 24 cm · 90°', important: true });
    // Centred above or below it would leave at the left: it stands at the right of its mark.
    expect(placeLabels([wide], { bounds }).get('a')).toMatchObject({ anchor: 'start', x: 39 });
    const low = request('b', 200, 188);
    expect(placeLabels([low], { bounds }).get('b')?.y).toBeLessThan(188);
    const keepOut = [{ left: 150, right: 250, top: 130, bottom: 180 }];
    expect(placeLabels([low], { bounds, keepOut }).get('b')?.anchor).not.toBe('middle');
  });

  it('of a ring stand where no mark is, and at the best place when all are taken', () => {
    const spots: [Point, Point] = [
      { x: 100, y: 100 },
      { x: 300, y: 100 },
    ];
    const near = [{ x: 120, y: 110, radius: 15 }];
    expect(freeSpot(spots, 'equal', [])).toBe(spots[0]);
    expect(freeSpot(spots, 'equal', near)).toBe(spots[1]);
    expect(freeSpot(spots, 'equal', [...near, { x: 290, y: 95, radius: 15 }])).toBe(spots[0]);
  });

  it('never cover each other, apart from important ones', () => {
    const at = fc.record({ x: number(0, 600), y: number(0, 400) });
    fc.assert(
      fc.property(fc.array(at, { minLength: 2, maxLength: 25 }), (points) => {
        const placed = [
          ...placeLabels(points.map(({ x, y }, i) => request(`p${i}`, x, y))).values(),
        ];
        const width = 'Clarinet 1'.length * 6.4;
        const left = ({ x, anchor }: (typeof placed)[number]) =>
          anchor === 'start' ? x : anchor === 'end' ? x - width : x - width / 2;
        placed.forEach((a, i) => {
          for (const b of placed.slice(i + 1)) {
            const apart =
              Math.abs(left(a) - left(b)) >= width - 1e-9 || Math.abs(a.y - b.y) >= 14 - 1e-9;
            expect(apart).toBe(true);
          }
        });
      }),
    );
  });
});
