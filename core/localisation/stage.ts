/** One player's image: place and extent, shifts from −1 to +1. */
export interface StagePlace {
  left: number;
  right: number;
  shift: number;
}

/** How the players fill the base between the loudspeakers; percent of the whole base. */
export interface StageFigures {
  /** rightmost minus leftmost image */
  imageWidthPct: number;
  /** widest empty stretch between neighbours */
  largestGapPct: number;
  /** fraction of players whose image is at a loudspeaker */
  atSpeakersPct: number;
}

/** An image at or beyond this shift is at the loudspeaker. */
export const AT_LOUDSPEAKER = 0.999;

/** Edges of places in their order from left to right, written anew by every call. */
let edges = { lefts: new Float64Array(64), rights: new Float64Array(64) };

/**
 * How places fill the stage; quickest where they come almost in their order from left to right.
 * @param places those that are undefined are left out
 * @returns null without any image
 */
export function stageFigures(places: readonly (StagePlace | undefined)[]): StageFigures | null {
  if (places.length > edges.lefts.length) {
    const size = 2 * places.length;
    edges = { lefts: new Float64Array(size), rights: new Float64Array(size) };
  }
  const { lefts, rights } = edges;
  let count = 0;
  let atSpeakers = 0;
  for (let i = 0; i < places.length; i++) {
    const place = places[i];
    if (!place) continue;
    const { left, right, shift } = place;
    let j = count++;
    for (; j > 0 && (lefts[j - 1] ?? 0) > left; j--) {
      lefts[j] = lefts[j - 1] ?? 0;
      rights[j] = rights[j - 1] ?? 0;
    }
    lefts[j] = left;
    rights[j] = right;
    if (shift >= AT_LOUDSPEAKER || shift <= -AT_LOUDSPEAKER) atSpeakers += 1;
  }
  if (count === 0) return null;
  let reach = rights[0] ?? 0;
  let gap = 0;
  for (let i = 1; i < count; i++) {
    const left = lefts[i] ?? 0;
    const right = rights[i] ?? 0;
    if (left - reach > gap) gap = left - reach;
    if (right > reach) reach = right;
  }
  return {
    imageWidthPct: ((reach - (lefts[0] ?? 0)) / 2) * 100,
    largestGapPct: (gap / 2) * 100,
    atSpeakersPct: (atSpeakers / count) * 100,
  };
}
