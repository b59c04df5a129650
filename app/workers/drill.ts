import { bestEngine } from '../../core/audio/render';
import { clipFile } from '../../core/drill/ear/clip-file';
import { heardAt } from '../../core/drill/ear/placed';
import { earQuestion } from '../../core/drill/ear/question';
import type { Making, Stereo } from '../../core/drill/ear/sound';
import { listenerOf } from '../../core/drill/own/listener';
import { checkSound, imageSound } from '../../core/drill/own/sound';
import { plansHeard } from '../../core/drill/plan/heard';
import type { Help } from './serve';
import type { SoundFile, Tasks } from './tasks';

/** Questions to the ear and their sounds, made beside the page. */

type Ask<T extends keyof Tasks> = Tasks[T]['ask'];
type Answer<T extends keyof Tasks> = Promise<Tasks[T]['answer']>;

const fileOf = (sound: Stereo): SoundFile => ({
  file: new Blob(clipFile(sound) as Uint8Array<ArrayBuffer>[], { type: 'audio/wav' }),
  frames: sound[0].length,
});

async function making({ progress, breathe }: Help): Promise<Making> {
  return { engine: await bestEngine(), progress, breathe };
}

export async function earQuestionMade(
  { kind, seed, size }: Ask<'earQuestion'>,
  help: Help,
): Answer<'earQuestion'> {
  const made = await earQuestion(kind, seed, size, await making(help));
  const { clips, difference, ...question } = made;
  return {
    question,
    clips: clips.map(({ letter, sound }) => ({ letter, sound: fileOf(sound) })),
    difference: difference && fileOf(difference),
  };
}

export const earHeardAgain = async (
  { seed, shift }: Ask<'earAgain'>,
  help: Help,
): Answer<'earAgain'> => fileOf(await heardAt(seed, shift, await making(help)));

export const ownSoundMade = (ask: Ask<'ownSound'>): Tasks['ownSound']['answer'] =>
  fileOf('check' in ask ? checkSound(ask.check) : imageSound(ask.image));

export const ownFitted = ({ answers }: Ask<'ownFit'>): Tasks['ownFit']['answer'] =>
  listenerOf(answers);

export async function plansAsHeard(
  { before, after }: Ask<'plansHeard'>,
  help: Help,
): Answer<'plansHeard'> {
  const [one, other] = await plansHeard(before, after, await making(help));
  return { before: fileOf(one), after: fileOf(other) };
}
