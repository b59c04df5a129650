import type { Hearing, Levels, Loop } from '../../core/audio/listen';
import type { Output } from './output';
import type { FromProcessor, ToProcessor } from './protocol';

interface Playing {
  gain: GainNode;
  ids: readonly string[];
  stems: (GainNode | null)[];
  sources: AudioBufferSourceNode[];
  trim: number;
}

const SWITCH_S = 0.02;
const TOLD_EVERY_MS = 50;

/**
 * Plain buffer sources, where the browser gives no processor: takes as whole loops, one of them heard. What
 * follows the hand, mono and the head are the processor's.
 */
export function bufferOutput(
  context: AudioContext,
  loopFrames: number,
  hear: (message: FromProcessor) => void,
): Output {
  const master = context.createGain();
  const limiter = context.createDynamicsCompressor();
  limiter.threshold.value = -3;
  limiter.ratio.value = 20;
  const meter = context.createAnalyser();
  master.gain.value = 0;
  master.connect(limiter).connect(meter).connect(context.destination);
  const takes = new Map<string, Playing>();
  let [active, wanted, begun] = [null as string | null, null as string | null, 0];
  let playing = false;
  let hearing: Hearing | null = null;
  let gains: ReadonlyMap<string, number> = new Map();
  const glide = (param: AudioParam, value: number): void => {
    param.setTargetAtTime(value, context.currentTime, SWITCH_S / 3);
  };
  const setMaster = (): void =>
    glide(master.gain, playing && hearing ? hearing.volume * (hearing.dim ? 0.1 : 1) : 0);
  const choose = (): void => {
    const take = wanted === null ? null : takes.get(wanted);
    if (!take || !take.stems.every((stem) => stem !== null)) return;
    active = wanted;
    for (const [id, { gain, trim }] of takes) glide(gain.gain, id === active ? trim : 0);
  };
  const open = (id: string, stems: readonly string[], trim: number): void => {
    const gain = context.createGain();
    gain.gain.value = 0;
    gain.connect(master);
    stop(id);
    takes.set(id, {
      gain,
      ids: stems,
      stems: stems.map(() => null),
      sources: [],
      trim,
    });
  };
  const stop = (id: string): void => {
    const take = takes.get(id);
    for (const source of take?.sources ?? []) source.stop();
    take?.gain.disconnect();
    takes.delete(id);
    if (active === id) active = null;
  };
  const position = (): number => (context.currentTime - begun) % (loopFrames / context.sampleRate);
  const fill = (id: string, stem: number, [left, right]: Loop): void => {
    const take = takes.get(id);
    if (!take) return;
    const buffer = context.createBuffer(2, loopFrames, context.sampleRate);
    buffer.copyToChannel(left as Float32Array<ArrayBuffer>, 0);
    buffer.copyToChannel(right as Float32Array<ArrayBuffer>, 1);
    const source = new AudioBufferSourceNode(context, { buffer, loop: true });
    const gain = context.createGain();
    gain.gain.value = gains.get(take.ids[stem] ?? '') ?? 1;
    source.connect(gain).connect(take.gain);
    if (begun === 0) begun = context.currentTime;
    source.start(0, position());
    take.sources.push(source);
    take.stems[stem] = gain;
    choose();
  };
  const samples = new Float32Array(meter.fftSize);
  const timer = setInterval(() => {
    if (!playing) return;
    meter.getFloatTimeDomainData(samples);
    const peak = samples.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
    const levels: Levels = {
      position: Math.round(position() * context.sampleRate),
      takeId: active,
      peaks: [peak, peak],
      stems: {},
      limited: 10 ** (limiter.reduction / 20),
      missing: active === null ? 1 : 0,
      thinned: 'all',
      ended: false,
    };
    hear({ kind: 'levels', levels });
  }, TOLD_EVERY_MS);
  const post = (message: ToProcessor): void => {
    switch (message.kind) {
      case 'open':
        return open(message.take, message.stems, message.trim);
      case 'close':
        return stop(message.take);
      case 'layer':
        return fill(message.take, message.stem, message.loop);
      case 'choose':
        wanted = message.take;
        return choose();
      case 'stems':
        gains = new Map([...gains, ...message.gains]);
        for (const { ids, stems } of takes.values()) {
          stems.forEach((stem, s) => stem && glide(stem.gain, gains.get(ids[s] ?? '') ?? 1));
        }
        return;
      case 'hear':
        hearing = message.hearing;
        return setMaster();
      case 'play':
        playing = message.playing;
        setMaster();
    }
  };
  return {
    context,
    direct: false,
    post,
    close() {
      clearInterval(timer);
      for (const id of [...takes.keys()]) stop(id);
      master.disconnect();
    },
  };
}
