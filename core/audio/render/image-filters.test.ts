import { expect, it } from 'vitest';
import { ROOM_SURFACES, type RoomSurface } from '../../acoustics/reflections';
import { OCTAVES_HZ } from '../../acoustics/reverberation-time';
import { seededRandom } from '../../units/random';
import { ImageFilters, longestFilter, type OctaveSurfaces } from './image-filters';
import { addPath, AHEAD } from './paths';

const RATE = 48_000;

const surfacesOf = (absorption: (surface: RoomSurface, hz: number) => number): OctaveSurfaces =>
  OCTAVES_HZ.map((hz) => ({
    hz,
    absorption: Object.fromEntries(
      ROOM_SURFACES.map((surface) => [surface, absorption(surface, hz)]),
    ),
  }));

function levelAt(response: Float32Array, hz: number): number {
  let [re, im] = [0, 0];
  response.forEach((value, i) => {
    re += value * Math.cos((2 * Math.PI * hz * i) / RATE);
    im -= value * Math.sin((2 * Math.PI * hz * i) / RATE);
  });
  return 10 * Math.log10(re * re + im * im);
}

it('a path over two surfaces has in every octave what both of them leave, and nothing before it', () => {
  const random = seededRandom(11);
  const known = new Map<string, number>();
  const octaves = surfacesOf((surface, hz) => {
    const value = 0.02 + 0.7 * random();
    known.set(`${surface} ${hz}`, value);
    return value;
  });
  const filters = new ImageFilters(octaves, RATE);
  const left = (surface: RoomSurface, hz: number): number =>
    1 - (known.get(`${surface} ${hz}`) ?? 0);
  for (const ways of [
    ['floor'],
    ['floor', 'left'],
    ['back', 'ceiling'],
    ['left', 'right'],
  ] as const) {
    const gain = ways.reduce((sum, one) => sum * Math.sqrt(left(one, 1000)), 0.1);
    const response = new Float32Array(4096);
    const filter = filters.of(ways);
    expect(filters.of([...ways].reverse())).toBe(filter);
    expect(filter?.length).toBeLessThanOrEqual(longestFilter(RATE));
    addPath(response, { delayS: 0.0123, gain, filter }, RATE);
    for (const hz of OCTAVES_HZ) {
      const wanted = ways.reduce((sum, one) => sum * left(one, hz), 0.01);
      const apart = levelAt(response, hz) - 10 * Math.log10(wanted);
      expect(Math.abs(apart), `${ways.join(' ')} at ${hz} Hz`).toBeLessThan(0.5);
    }
    const first = Math.floor((0.0123 - 0.001) * RATE) + AHEAD;
    const before = response.subarray(0, first).reduce((sum, v) => sum + v * v, 0);
    expect(before / response.reduce((sum, v) => sum + v * v, 0)).toBeLessThan(1e-6);
  }
});

it('surfaces that absorb alike in all octaves need no filter', () => {
  expect(
    new ImageFilters(
      surfacesOf(() => 0.3),
      RATE,
    ).of(['floor', 'left']),
  ).toBeNull();
  expect(
    new ImageFilters(
      surfacesOf(() => 1),
      RATE,
    ).of(['floor']),
  ).toBeNull();
});
