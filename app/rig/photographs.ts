import type { Photograph } from '../../core/photo';
import type { BlobReference } from '../../core/session';
import { editSaying } from '../document/edits';
import { newId } from '../document/new-id';
import { edit } from '../document/session-store';
import { letGoPicture, removePhotographs } from '../document/things';
import { blobContent, takeInBlob } from '../keeping/blobs';
import { readPicture } from '../keeping/read-picture';
import { notify } from '../view/notices';

/** As large as a telephone takes them, px; larger ones are scaled down. */
const MOST_PX = 4000;

/** Changes what is marked on a photograph, or said of it. */
export function change(id: string, recipe: (photograph: Photograph) => void): void {
  edit((draft) => {
    const found = draft.rig.photographs.find((one) => one.id === id);
    if (found) recipe(found);
  });
}

/** Takes a picture in: shrunk, and without what the camera wrote beside it. */
export async function take(
  file: File,
  arrayId: string,
  view: Photograph['view'],
): Promise<string | null> {
  const read = await readPicture(file, MOST_PX);
  if (!read.ok) {
    notify(read.message);
    return null;
  }
  const { picture, widthPx, heightPx } = read;
  const reference = await takeInBlob(picture, `${view} ${file.name}`.slice(0, 200));
  const id = newId();
  editSaying('A photograph of the bar is taken in.', (draft) => {
    if (!draft.blobs.some((one) => one.id === reference.id)) draft.blobs.push(reference);
    draft.rig.photographs.push({
      ...{ id, arrayId, picture: reference.id, widthPx, heightPx, view },
      scale: view === 'above' ? 'sheet' : 'length',
      ...{ sheetWidthM: 0.297, sheetHeightM: 0.21, lengthM: 0.3, tiltDeg: 5 },
      ...{ leftHeightM: 0, rightHeightM: 0, heightWithinM: 0.01, marks: [] },
    });
  });
  return id;
}

/** Half as wide, and half as high: its marks go with it. */
export async function shrink(
  photograph: Photograph,
  blobs: readonly BlobReference[],
): Promise<void> {
  const { id, picture, widthPx, heightPx } = photograph;
  const known = blobs.find((one) => one.id === picture);
  const stored = known && (await blobContent(known.hash));
  if (!known || !stored) throw new Error('The photograph is not stored here any more.');
  const file = new File([stored.content], known.name, { type: stored.type });
  const read = await readPicture(file, Math.round(Math.max(widthPx, heightPx) / 2));
  if (!read.ok) throw new Error(read.message);
  const reference = await takeInBlob(read.picture, known.name);
  editSaying('The photograph is half as large.', (draft) => {
    if (!draft.blobs.some((one) => one.id === reference.id)) draft.blobs.push(reference);
    const found = draft.rig.photographs.find((one) => one.id === id);
    if (!found) return;
    const [across, down] = [read.widthPx / widthPx, read.heightPx / heightPx];
    found.picture = reference.id;
    found.widthPx = read.widthPx;
    found.heightPx = read.heightPx;
    found.marks = found.marks.map(({ name, u, v }) => ({ name, u: u * across, v: v * down }));
    letGoPicture(draft, picture);
  });
}

/** Takes a photograph away. */
export const remove = (id: string): void =>
  editSaying('The photograph is removed.', (draft) =>
    removePhotographs(draft, (one) => one.id === id),
  );
