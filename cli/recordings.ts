import { joinedSound, openSound, takesOf, type Sound, type TakeFile } from '../core/audio';
import type { Machine } from './session-file';

/** Recordings of one take, as they are on the machine. */
export interface OpenedTake {
  name: string;
  sound: Sound;
}

/** Opens files and joins those of one take; whatever was opened is closed by `closing`. */
export async function openTakes(
  files: readonly string[],
  machine: Machine,
  closing: (() => Promise<void>)[],
): Promise<{ takes: OpenedTake[]; errors: string[] }> {
  const sounds = new Map<TakeFile, Sound>();
  const errors: string[] = [];
  for (const file of files) {
    const opened = await machine.open(file).catch((error: unknown) => error as Error);
    if (opened instanceof Error) {
      errors.push(`${file}: cannot be read (${opened.message})`);
      continue;
    }
    closing.push(() => opened.close());
    const sound = await openSound(opened.source);
    if (!sound.ok) errors.push(`${file}: ${sound.message}`);
    else {
      const name = file.split(/[\\/]/).pop() ?? file;
      sounds.set({ name, info: sound.value.info }, sound.value);
    }
  }
  const takes: OpenedTake[] = [];
  if (errors.length > 0) return { takes, errors };
  for (const take of takesOf([...sounds.keys()])) {
    const joined = joinedSound(take, (file) => sounds.get(file) as Sound);
    if (joined.ok) takes.push({ name: take.name, sound: joined.value });
    else errors.push(joined.message);
  }
  return { takes, errors };
}
