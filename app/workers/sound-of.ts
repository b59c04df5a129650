import { joinedSound } from '../../core/audio/joined';
import { openSound, type Sound } from '../../core/audio/sound';
import { blobSource } from '../../core/audio/wav/bytes';
import { takesOf, type TakeFile } from '../../core/audio/wav/takes';

/** Files of one take, read as one recording. */
export interface JoinedFiles {
  files: readonly { name: string; file: Blob }[];
  /** of microphones: by them as well files are told to be of one take */
  names: readonly string[];
}

/** A recording as a worker is asked about it: one file, or those of a take. */
export type Recorded = Blob | JoinedFiles;

async function opened(file: Blob): Promise<Sound> {
  const found = await openSound(blobSource(file));
  if (!found.ok) throw new Error(found.message);
  return found.value;
}

/** Opens a recording; nothing is read but what its files say of themselves. @throws where it is none */
export async function soundOf(recorded: Recorded): Promise<Sound> {
  if (recorded instanceof Blob) return opened(recorded);
  const sounds = new Map<TakeFile, Sound>();
  for (const { name, file } of recorded.files) {
    const sound = await opened(file);
    sounds.set({ name, info: sound.info }, sound);
  }
  const [take, other] = takesOf([...sounds.keys()], recorded.names);
  if (!take || other) throw new Error('its files are no longer of one take');
  const joined = joinedSound(take, (file) => {
    const sound = sounds.get(file);
    if (!sound) throw new Error(`${file.name} is missing`);
    return sound;
  });
  if (!joined.ok) throw new Error(joined.message);
  return joined.value;
}
