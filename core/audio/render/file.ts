import { SIMULATION } from '../simulation';
import type { Session } from '../../session/schema';
import { Dither, encodeFrames, wavEnd, wavHeader, type WrittenFormat } from '../wav/writer';
import type { RenderPlan } from './plan';
import { TAKE_BITS } from './size';
import { renderBlocks, type RenderHelp } from './take';

const formatOf = ({ channels, sampleRateHz }: RenderPlan): WrittenFormat => ({
  kind: 'integer',
  bits: TAKE_BITS,
  channels: channels.length,
  sampleRateHz,
});

/** Bytes that a take's samples will have. */
export const takeBytes = ({ channels, frames }: RenderPlan): number =>
  (frames * channels.length * TAKE_BITS) / 8;

/** What the file says of itself: that nobody played, from which plan and seed, and how loud full scale is. */
function takeNote(session: Pick<Session, 'id' | 'title'>, plan: RenderPlan): string {
  const { seed, fullScaleDb, notes } = plan;
  const left = notes.length > 0 ? `; ${notes.join('; ')}` : '';
  return `${SIMULATION}: session ${session.id} (${session.title}), seed ${seed}, full scale ${fullScaleDb} dB SPL${left}`;
}

/**
 * A simulated take as a broadcast WAV file of 24 bits, part after part.
 * @param help as of renderBlocks
 */
export async function* takeFile(
  session: Pick<Session, 'id' | 'title'>,
  plan: RenderPlan,
  help: Partial<RenderHelp> = {},
): AsyncGenerator<Uint8Array, void, undefined> {
  const format = formatOf(plan);
  const note = takeNote(session, plan);
  yield wavHeader(format, plan.frames, {
    channelNames: plan.channels.map(({ name }) => name),
    note,
    broadcast: {
      description: note.slice(0, 256),
      originator: 'Rotunda, simulated',
      originatorReference: `seed ${plan.seed}`,
      // Nothing of when it was made: the same plan gives the same file.
      date: '',
      time: '',
      timeReference: 0,
      codingHistory: `A=PCM,F=${plan.sampleRateHz},W=${TAKE_BITS},T=simulation`,
    },
  });
  const dither = new Dither(plan.seed);
  for await (const { planes, frames } of renderBlocks(plan, help)) {
    yield encodeFrames(planes, frames, format, dither);
  }
  yield wavEnd(format, plan.frames);
}
