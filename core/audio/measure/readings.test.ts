import { describe, expect, it } from 'vitest';
import { plus, scaled, soundOf, tone } from '../fixtures/made';
import { delayed, pinkNoise, whiteNoise } from '../signal/generate';
import type { Planes } from '../wav/decode';
import { placeText, readingsOf, type Reading } from './readings';
import { measureTake } from './take';

const RATE = 48_000;
const SECONDS = 4;
const pink = (seed: number, gain = 0.05): Float32Array =>
  scaled(pinkNoise(SECONDS * RATE, seed), gain);

async function read(planes: Planes, names: string[] = ['Left', 'Right']): Promise<Reading[]> {
  const figures = await measureTake(await soundOf(planes, RATE));
  return readingsOf(figures, { names, sampleRateHz: RATE, speed: 343, units: 'metric' });
}
const said = (readings: readonly Reading[], key: string): Reading | undefined =>
  readings.find((reading) => reading.key === key);
const keys = (readings: readonly Reading[]): string[] => readings.map(({ key }) => key);

describe('what a recording says', () => {
  it('finds a clip at its sample, and leads there', async () => {
    const [left, right] = [pink(1), pink(2)];
    left.fill(1, 96_000, 96_005);
    const [first] = await read([left, right]);
    expect(first).toMatchObject({ grade: 'fault', key: 'clips 0', channels: [0] });
    expect(first?.text).toBe('Left is clipped once: 5 samples at 0:02.000.');
    expect(first?.at?.fromS).toBeCloseTo(1.95, 3);
  });

  it('reads 4.00 ms as 192 samples and 1.37 m, and says nothing of no delay', async () => {
    const one = pink(3);
    const behind = plus(delayed(one, 192), scaled(pink(4), 0.05));
    const late = said(await read([one, behind]), 'delay 1');
    expect(late?.text).toMatch(
      /^Right is 192 samples behind Left: 4\.00 ms, 1\.37 m of air, sure\. In mono that combs: the third octave at 125 Hz loses \d+\.\d dB\.$/,
    );
    // The cause, and not its symptom once more; an ordinary pair has no such way between its microphones.
    expect(late?.grade).toBe('caution');
    expect(keys(await read([one, behind]))).not.toContain('mono');
    const near = plus(delayed(one, 20), scaled(pink(4), 0.05));
    expect(said(await read([one, near]), 'delay 1')?.grade).toBe('note');
    const ahead = said(await read([behind, one]), 'delay 1');
    expect(ahead?.text).toContain('192 samples ahead of Left');
    const level = plus(scaled(one, 0.7), scaled(pink(5), 0.05));
    expect(keys(await read([one, level]))).not.toContain('delay 1');
  });

  it('names what is turned over, and not what follows from it', async () => {
    const one = pink(6);
    const turned = plus(scaled(one, -0.8), scaled(pink(7), 0.1));
    const readings = await read([one, turned]);
    expect(readings[0]).toMatchObject({ key: 'polarity 1', grade: 'fault', sureness: 'sure' });
    expect(keys(readings)).not.toContain('correlation');
    expect(keys(readings)).not.toContain('mono');
  });

  it('names two tracks of one microphone, and not their delay or likeness', async () => {
    const one = pink(8);
    const readings = await read([one, scaled(one, -0.5)]);
    expect(readings[0]?.text).toBe(
      'Right is the same signal as Left, −6.0 dB, turned over: two tracks of one microphone, not two microphones.',
    );
    expect(keys(readings).filter((key) => /delay|polarity|mono|corr/.test(key))).toEqual([]);
  });

  it('names a silent channel, and nothing else of it', async () => {
    const readings = await read([pink(9), new Float32Array(SECONDS * RATE)]);
    expect(readings[0]?.text).toBe('Right is silent from beginning to end.');
    expect(readings.some(({ key }) => /delay|soft 1|same/.test(key))).toBe(false);
  });

  it('says headroom, softness, an offset and hum', async () => {
    const hum = [50, 100, 150, 200, 250].map((hz) => tone(hz, -50, SECONDS, RATE));
    const quiet = scaled(whiteNoise(SECONDS * RATE, 3), 1e-5);
    const humming = plus(quiet, ...hum);
    const off = scaled(pink(11), 0.05).map((v) => v + 0.004);
    const readings = await read([humming, off]);
    expect(said(readings, 'hum 0')?.text).toMatch(
      /^Hum of 50 Hz in Left, −4\d dBFS in all, strongest at (\d+, ){3}\d+ Hz\.$/,
    );
    expect(said(readings, 'hum 0')?.grade).toBe('caution');
    expect(said(readings, 'offset')?.text).toContain('+0.40 % of full scale');
    expect(said(await read([scaled(pink(1), 0.02), pink(2)]), 'soft 0')?.text).toMatch(
      /^Left was recorded softly: its highest sample is at −[456]\d dBFS\.$/,
    );
  });

  it('cannot tell the delay of two sounds that have nothing in common, and says what would', async () => {
    const told = said(await read([pink(12), pink(13)]), 'delays');
    expect(told).toMatchObject({ sureness: 'cannot be told', grade: 'note' });
    expect(told?.text).toContain('A clap in the middle');
  });

  it('puts the gravest first, calls a channel without a name by its number, and ends with loudness', async () => {
    const one = pink(14);
    one.fill(-1, 1000, 1004);
    const readings = await read([one, pink(15), new Float32Array(SECONDS * RATE)], ['', 'Room']);
    const grades = readings.map(({ grade }) => grade);
    expect([...grades].sort()).toEqual([...grades].sort());
    expect(grades.lastIndexOf('fault')).toBeLessThan(grades.indexOf('note'));
    expect(readings[0]?.text).toContain('Channel 1 is clipped once');
    expect(readings.at(-1)?.text).toMatch(/^Loudness −\d+\.\d LUFS/);
  });

  it('says of many channels once what is so of many', async () => {
    const many = Array.from({ length: 9 }, (_, c) =>
      scaled(pink(20 + c), 0.02).map((v) => v + (c < 6 ? 0.002 + c * 1e-4 : 0)),
    );
    const readings = await read(
      many,
      Array.from({ length: 9 }, () => ''),
    );
    expect(said(readings, 'offset')?.text).toMatch(
      /^6 of 9 channels stand off the middle by up to \+0\.25 % \(Channel 6\) of full scale/,
    );
    expect(said(readings, 'delays')?.text).toMatch(
      /^How late 8 of 9 channels are against Channel 1/,
    );
    expect(readings.filter(({ key }) => key.startsWith('delay')).length).toBe(1);
  });

  it('of a moment says nothing of its mean', async () => {
    expect(keys(await read([new Float32Array([0.5])], ['']))).not.toContain('offset');
  });

  it('of one channel of silence is one sentence', async () => {
    expect(keys(await read([new Float32Array(RATE)], ['Mono']))).toEqual(['silent']);
  });
});

it('a place is minutes and seconds, and hours where there are any', () => {
  expect(placeText(0)).toBe('0:00.000');
  expect(placeText(61.5, 1)).toBe('1:01.5');
  expect(placeText(3723, 0)).toBe('1:02:03');
  expect(placeText(43_199.9996, 3)).toBe('12:00:00.000');
});
