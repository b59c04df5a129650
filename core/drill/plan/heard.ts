import { delayed } from '../../audio/signal/generate';
import { planTake } from '../../audio/render/plan';
import { renderBlocks } from '../../audio/render/take';
import { channelMap } from '../../channels/map';
import { planMix } from '../../recorded/mix';
import type { Session } from '../../session/schema';
import { addedUp, matched, RATE_HZ, scaled, type Making, type Stereo } from '../ear/sound';

const SECONDS = 6;

async function mixOf(session: Session, { engine, progress, breathe }: Making): Promise<Stereo> {
  const planned = planTake(session, { seconds: SECONDS, sampleRateHz: RATE_HZ }, undefined, engine);
  if (!planned.ok) throw new Error(planned.message);
  const { channels, frames } = planned.value;
  const planes = channels.map(() => new Float32Array(frames));
  for await (const block of renderBlocks(planned.value, { engine, progress, breathe })) {
    block.planes.forEach((plane, c) =>
      planes[c]?.set(plane.subarray(0, block.frames), block.position),
    );
  }
  const mix = planMix(
    session,
    channelMap(session).inputs.map((_, i) => i + 1),
  );
  const side = (which: 'left' | 'right'): Float32Array =>
    addedUp(
      planes.map((plane, c) => {
        const { delayMs, ...gains } = mix[c] ?? { left: 0, right: 0, delayMs: 0 };
        const sent = scaled(plane, gains[which]);
        return delayMs === 0 ? sent : delayed(sent, (delayMs / 1000) * RATE_HZ);
      }),
    );
  return [side('left'), side('right')];
}

/**
 * Two plans as their mixes sound, simulated, at one loudness.
 * @throws Error where one of them has nobody or nothing that records
 */
export async function plansHeard(
  before: Session,
  after: Session,
  making: Making,
): Promise<[before: Stereo, after: Stereo]> {
  const half = (from: number) => ({
    ...making,
    progress: (done: number) => making.progress(from + done / 2),
  });
  const sounds = [await mixOf(before, half(0)), await mixOf(after, half(0.5))];
  const [one, other] = matched(sounds);
  if (!one || !other) throw new TypeError('two plans are heard');
  return [one, other];
}
