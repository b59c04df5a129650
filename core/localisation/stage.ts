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

/** So many places are sorted faster by putting each in its place: they come almost in order. */
const FEW = 64;

function inOrder(places: readonly StagePlace[]): readonly StagePlace[] {
  if (places.length > FEW) return [...places].sort((a, b) => a.left - b.left);
  const sorted = [...places];
  for (let i = 1; i < sorted.length; i++) {
    const place = sorted[i];
    if (!place) continue;
    let j = i;
    for (let before = sorted[j - 1]; before && before.left > place.left; before = sorted[j - 1]) {
      sorted[j] = before;
      j -= 1;
    }
    sorted[j] = place;
  }
  return sorted;
}

/** @returns null without any image */
export function stageFigures(places: readonly StagePlace[]): StageFigures | null {
  if (places.length === 0) return null;
  const sorted = inOrder(places);
  let reach = sorted[0]?.right ?? 0;
  const from = sorted[0]?.left ?? 0;
  let gap = 0;
  let atSpeakers = 0;
  for (const { left, right, shift } of sorted) {
    if (Math.abs(shift) >= AT_LOUDSPEAKER) atSpeakers += 1;
    gap = Math.max(gap, left - reach);
    reach = Math.max(reach, right);
  }
  return {
    imageWidthPct: ((reach - from) / 2) * 100,
    largestGapPct: (gap / 2) * 100,
    atSpeakersPct: (atSpeakers / places.length) * 100,
  };
}
