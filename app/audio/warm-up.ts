import { guarded, LiveMix, ListenMixer, OVERSAMPLED } from '../../core/audio/listen/sounding';

/** So many blocks, and the browser has made quick code of what they run. */
const BLOCKS = 400;
const LOOP = 4800;

/**
 * Runs everything that sound needs once before any is wanted: the first blocks of a fresh program take
 * many times as long as the later ones, and what is late is heard.
 */
export function warmedUp(sampleRateHz: number, block: number): void {
  const mixer = new ListenMixer(LOOP, sampleRateHz, block);
  const points = Float64Array.of(0, 2, 1, 1, 0);
  const capsules = Float64Array.of(0, 0, 2, 0, 1, 0, 0.5, 0.7, 0.7, 0);
  const room = Float64Array.of(-5, -5, 0, 5, 9, 6, 0.9, 0.9, 0.9, 0.9, 0.9, 0.9);
  const pose = { points, capsules, room, speed: 343 };
  mixer.open('warm', ['s'], 1);
  mixer.setLive(
    'warm',
    new LiveMix(
      [guarded(new Float32Array(OVERSAMPLED * LOOP).fill(1e-4))],
      [0],
      pose,
      sampleRateHz,
    ),
  );
  for (const name of ['near', 'rest']) {
    mixer.fill('warm', 0, name, [new Float32Array(LOOP).fill(1e-4), new Float32Array(LOOP)]);
  }
  mixer.hear({ volume: 0.1, mono: false, swap: false, dim: false, head: null });
  mixer.setLiveOnly(true);
  mixer.choose('warm');
  mixer.play(true);
  const [left, right] = [new Float32Array(block), new Float32Array(block)];
  for (let i = 0; i < BLOCKS; i++) {
    const timeS = (i * block) / sampleRateHz;
    const moved = points.slice();
    moved[0] = 0.1 * Math.sin(timeS);
    if (i % 6 === 0) mixer.move('warm', { ...pose, points: moved }, timeS);
    mixer.process(left, right, timeS);
    mixer.levels();
  }
}
