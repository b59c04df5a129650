import { builtSession } from '../../core/rig';
import type { MarkSaid } from '../../core/recall';
import type { BlobReference, MicArray, Session } from '../../core/session';
import { optionName, optionsOf, takesOf } from '../../core/soundcheck';
import { enter, strike } from '../document/journals';
import { planOf } from '../document/plan';
import { sessionStore } from '../document/session-store';
import { keptVersion } from '../keeping/versions';
import { takeInBlob } from '../keeping/blobs';
import { readPicture } from '../keeping/read-picture';
import { notify } from '../view/notices';

/** What a mark can be made of. */
export interface Origin {
  id: string;
  name: string;
  made: MarkSaid['made'];
  /** id of a kept option, whose plan is read when it is asked for */
  option?: string;
  array?: MicArray;
  /** the plan that the array stands in */
  plan?: Session;
}

/** Arrays as planned and as built, kept options, and by hand. */
export function originsOf(session: Session): Origin[] {
  const plan = planOf(session);
  const built = session.rig.asBuilt.length > 0 ? builtSession(plan) : null;
  const noted = new Set(session.rig.asBuilt.map(({ arrayId }) => arrayId));
  return [
    ...(built
      ? built.arrays
          .filter(({ id }) => noted.has(id))
          .map((array): Origin => ({
            id: `built ${array.id}`,
            name: `${array.name}, as built`,
            made: 'as built',
            array,
            plan: built,
          }))
      : []),
    ...plan.arrays.map((array): Origin => ({
      id: `plan ${array.id}`,
      name: `${array.name}, as planned`,
      made: 'plan',
      array,
      plan,
    })),
    ...optionsOf(session)
      .filter(({ entry }) => entry.state !== 'dropped')
      .map((option): Origin => ({
        id: `option ${option.key}`,
        name: optionName(option),
        made: 'option',
        option: option.key,
      })),
    { id: 'hand', name: 'By hand: measured from tape points', made: 'hand' },
  ];
}

/** Takes that can have proved a mark. */
export const takeChoices = (session: Session): { id: string; name: string }[] =>
  takesOf(session).map(({ key, take }) => ({
    id: key,
    name: `Take ${take.number}${take.name === '' ? '' : `, ${take.name}`}`,
  }));

const PHOTO_PX = 2400;
const MOST_PHOTOGRAPHS = 20;

/** Pictures as contents, shrunk, without what the camera wrote beside them; one that cannot be read is said. */
export async function picturesOf(files: readonly File[]): Promise<BlobReference[]> {
  const taken: BlobReference[] = [];
  for (const file of files.slice(0, MOST_PHOTOGRAPHS)) {
    const read = await readPicture(file, PHOTO_PX);
    if (read.ok) taken.push(await takeInBlob(read.picture, file.name.slice(0, 200)));
    else notify(`${file.name}: ${read.message}`);
  }
  return taken;
}

/**
 * Puts a mark into the session, with the version of the plan that it belongs to.
 * @returns its id; empty where it was refused, which is said
 */
export function enterMark(said: MarkSaid, pictures: readonly BlobReference[] = []): string {
  const { session } = sessionStore.getState();
  if (!session) return '';
  const version = keptVersion(session);
  const id = enter(
    'marks',
    { ...said, photographs: pictures.map((picture) => picture.id), version: version.hash },
    [version, ...pictures],
  );
  if (id !== '') {
    notify(
      session.venue.name === '' && said.against === null
        ? 'The mark is in the session. Name the venue under Brief, The job: it is found again by that.'
        : said.use === 'ears'
          ? 'The rating is entered.'
          : 'The mark is in the session, and offered when you come back.',
      { label: 'Strike it', run: () => strike('marks', id) },
    );
  }
  return id;
}

/** Tags as they are typed, with commas between them. */
export const tagsOf = (text: string): string[] =>
  text
    .split(',')
    .map((tag) => tag.trim().slice(0, 60))
    .filter((tag) => tag !== '')
    .slice(0, 50);
