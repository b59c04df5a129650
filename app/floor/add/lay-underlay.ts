import { edit } from '../../document/session-store';
import { takeInBlob } from '../../keeping/blobs';
import { readPicture } from '../../keeping/read-picture';
import { chooseTool } from '../../view/floor-tools';
import { notify } from '../../view/notices';

/** Longest side of a picture that is kept, px; larger ones are scaled down. */
const MOST_PX = 2200;

/** Lays a picture under the plan, about as wide as the hall, and asks for its scale. */
export async function layUnderlay(file: File): Promise<string | null> {
  const read = await readPicture(file, MOST_PX);
  if (!read.ok) return read.message;
  const { picture, widthPx, heightPx } = read;
  const reference = await takeInBlob(picture, file.name.slice(0, 200));
  edit((draft) => {
    const before = draft.venue.underlay?.picture;
    draft.blobs = draft.blobs.filter(({ id }) => id !== before && id !== reference.id);
    draft.blobs.push(reference);
    const { widthM, depthM, origin } = draft.venue;
    const wide = widthM ?? draft.venue.stage.widthM * 1.5;
    const metresPerPixel = wide / widthPx;
    const high = heightPx * metresPerPixel;
    draft.venue.underlay = {
      picture: reference.id,
      widthPx,
      heightPx,
      metresPerPixel,
      opacityPct: 45,
      x: origin ? -origin.x : -wide / 2,
      y: origin && depthM !== null ? depthM - origin.y : high * 0.6,
    };
  });
  chooseTool('scale');
  notify('Set its scale: click two points of the picture whose distance you know.');
  return null;
}
