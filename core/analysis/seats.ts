import type { Session } from '../session/schema';

type SeatBlock = Session['venue']['seats'][number];

/** A stand's foot, and the aisle beside a block, m. */
const AISLE_M = 1;

/** Whether something stands in a block of seats or in the aisle along it. */
export function isAmong(
  { x, y, columns, rows, pitchM, rowPitchM }: SeatBlock,
  at: { x: number; y: number },
): boolean {
  const half = (columns * pitchM) / 2 + AISLE_M;
  return Math.abs(at.x - x) <= half && at.y <= y + AISLE_M / 2 && at.y >= y - rows * rowPitchM;
}
