/** Greedy placing of labels beside their marks so that none covers another. */
export interface LabelRequest {
  id: string;
  /** middle of the mark, px */
  x: number;
  y: number;
  /** radius to keep clear of, px */
  radius: number;
  text: string;
  /** side of the mark to try first */
  prefer: 'above' | 'below';
  /** placed first, and shown even where it must overlap */
  important: boolean;
}

export interface PlacedLabel {
  id: string;
  x: number;
  y: number;
  anchor: 'start' | 'middle' | 'end';
}

export interface Rect {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

const LETTER_PX = 6.4;
const LINE_PX = 14;

export const overlaps = (a: Rect, b: Rect): boolean =>
  a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;

const CELL_PX = 64;

/** What is taken of the drawing, by the cells that it lies in, so that only what is near is asked. */
class Taken {
  private readonly cells = new Map<string, { rect: Rect; id: string }[]>();

  private cellsOf({ left, right, top, bottom }: Rect): string[] {
    const at = (px: number) => Math.floor(px / CELL_PX);
    const found: string[] = [];
    for (let x = at(left); x <= at(right); x++) {
      for (let y = at(top); y <= at(bottom); y++) found.push(`${x},${y}`);
    }
    return found;
  }

  add(rect: Rect, id = ''): void {
    for (const key of this.cellsOf(rect)) {
      const cell = this.cells.get(key);
      if (cell) cell.push({ rect, id });
      else this.cells.set(key, [{ rect, id }]);
    }
  }

  /** Whether something else than its own mark is in the way. */
  meets(rect: Rect, ownId: string): boolean {
    return this.cellsOf(rect).some((key) =>
      this.cells.get(key)?.some((other) => other.id !== ownId && overlaps(rect, other.rect)),
    );
  }
}

/** The room that a placed label takes, px. */
export function rectOf(label: PlacedLabel, text: string): Rect {
  const width = text.length * LETTER_PX;
  const left =
    label.anchor === 'middle'
      ? label.x - width / 2
      : label.anchor === 'end'
        ? label.x - width
        : label.x;
  return { left, right: left + width, top: label.y - 11, bottom: label.y - 11 + LINE_PX };
}

function candidates({ id, x, y, radius, prefer }: LabelRequest): PlacedLabel[] {
  const away = radius + 4;
  const options: PlacedLabel[] = [
    { id, x, y: y + radius + 13, anchor: 'middle' },
    { id, x, y: y - radius - 5, anchor: 'middle' },
    { id, x: x + away, y: y + 4, anchor: 'start' },
    { id, x: x - away, y: y + 4, anchor: 'end' },
    { id, x: x - radius, y: y - radius - 5, anchor: 'start' },
    { id, x: x + radius, y: y - radius - 5, anchor: 'end' },
    { id, x: x - radius, y: y + radius + 13, anchor: 'start' },
    { id, x: x + radius, y: y + radius + 13, anchor: 'end' },
  ];
  const [below, above, ...beside] = options;
  return prefer === 'above' && below && above ? [above, below, ...beside] : options;
}

interface Options {
  /** place the important ones alone */
  importantOnly?: boolean;
  /** of the drawing, px: a label outside it cannot be read */
  bounds?: { width: number; height: number };
  /** where something else is written */
  keepOut?: readonly Rect[];
}

/**
 * Where each label goes; a label without room is left out unless it is important. Important ones
 * come first, so that they can also be placed alone.
 */
export function placeLabels(
  requests: readonly LabelRequest[],
  { importantOnly = false, bounds, keepOut = [] }: Options = {},
): Map<string, PlacedLabel> {
  const taken = new Taken();
  for (const rect of keepOut) taken.add(rect);
  for (const { id, x, y, radius } of requests) {
    taken.add({ left: x - radius, right: x + radius, top: y - radius, bottom: y + radius }, id);
  }
  const placed = new Map<string, PlacedLabel>();
  const inside = ({ left, right, top, bottom }: Rect): boolean =>
    !bounds || (left >= 0 && top >= 0 && right <= bounds.width && bottom <= bounds.height);
  const ordered = [
    ...requests.filter(({ important }) => important),
    ...(importantOnly ? [] : requests.filter(({ important }) => !important)),
  ];
  for (const request of ordered) {
    const options = candidates(request).filter((option) => inside(rectOf(option, request.text)));
    const free = options.find((option) => !taken.meets(rectOf(option, request.text), request.id));
    const chosen = free ?? (request.important ? (options[0] ?? candidates(request)[0]) : undefined);
    if (!chosen) continue;
    taken.add(rectOf(chosen, request.text));
    placed.set(request.id, chosen);
  }
  return placed;
}

/**
 * The first of some points at which a text written above it covers no mark and no name under one;
 * the first of all where none is free.
 */
export function freeSpot<P extends { x: number; y: number }>(
  spots: readonly [P, ...P[]],
  text: string,
  marks: readonly { x: number; y: number; radius: number }[],
): P {
  const taken = marks.map(({ x, y, radius }) => ({
    left: x - radius,
    right: x + radius,
    top: y - radius - LINE_PX,
    bottom: y + radius + LINE_PX,
  }));
  const free = spots.find(({ x, y }) => {
    const rect = rectOf({ id: '', x, y, anchor: 'middle' }, text);
    return !taken.some((other) => overlaps(rect, other));
  });
  return free ?? spots[0];
}
