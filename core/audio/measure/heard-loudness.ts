import type { ChannelGains } from '../listen/stream-voice';
import { chosenChannels } from '../chosen';
import { processedSound, type Processing } from '../process/processed';
import type { Sound } from '../sound';
import { partOf, walked, type Work } from '../work';
import { LoudnessMeter } from './loudness';

/** A longer recording is measured by parts of it, s, which lie evenly over all of it. */
const WHOLE_S = 600;
const [PARTS, PART_S] = [40, 10];

/**
 * Integrated loudness of what two loudspeakers give of a recording's channels, LUFS.
 * Beyond ten minutes it is that of forty parts of ten seconds each.
 * @param gains of each channel in the left and the right loudspeaker, as factors
 * @param processing what is done to them before; it makes no channels of others
 * @param stretch only what lies between, s from its beginning; all of it where it is left out
 * @returns null where nothing is above the absolute gate, −70 LUFS
 * Source: ITU-R BS.1770-4.
 */
export async function heardLoudness(
  sound: Sound,
  gains: readonly ChannelGains[],
  processing: Pick<Partial<Processing>, 'shiftMs' | 'gainDb' | 'inverted' | 'filters'>,
  work: Partial<Work> = {},
  stretch: { fromS: number; toS: number } | null = null,
): Promise<number | null> {
  const { format, frames } = sound.info;
  const rate = format.sampleRateHz;
  const sounding = gains.flatMap(({ left, right }, c) => (left || right ? [c] : []));
  if (sounding.length === 0) return null;
  const fold = (['left', 'right'] as const).map((name) => ({
    name,
    gains: sounding.map((c) => gains[c]?.[name] ?? 0),
  }));
  const { shiftMs = [], gainDb = [], inverted = [], filters = [] } = processing;
  const two = processedSound(chosenChannels(sound, sounding), {
    shiftMs: sounding.map((c) => shiftMs[c] ?? 0),
    gainDb: sounding.map((c) => gainDb[c] ?? 0),
    inverted: sounding.map((c) => inverted[c] ?? false),
    filters: filters.flatMap(({ channel, filter }) =>
      sounding.includes(channel) ? [{ channel: sounding.indexOf(channel), filter }] : [],
    ),
    fold,
  });
  const meter = new LoudnessMeter([1, 1], rate);
  const at = (s: number): number => Math.min(frames, Math.max(0, Math.round(s * rate)));
  const [begin, end] = stretch ? [at(stretch.fromS), at(stretch.toS)] : [0, frames];
  if (end <= begin) return null;
  const ranges =
    end - begin <= WHOLE_S * rate
      ? [{ from: begin, to: end }]
      : Array.from({ length: PARTS }, (_, i) => {
          const from = begin + Math.round((i * (end - begin - PART_S * rate)) / (PARTS - 1));
          return { from, to: from + PART_S * rate };
        });
  for (const [i, range] of ranges.entries()) {
    const part = partOf(work, i / ranges.length, (i + 1) / ranges.length);
    for await (const block of walked(two, range, part)) meter.add(block.planes, block.frames);
  }
  return meter.result().integrated;
}
