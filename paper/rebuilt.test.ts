import { describe, expect, it } from 'vitest';
import { whereTapesMeet } from '../core/rig';
import { demoSessions } from '../core/demo';
import {
  readSessionText,
  sessionFrom,
  writeSessionText,
  type MicArray,
  type Session,
} from '../core/session';
import { expectedOf } from '../core/soundcheck';
import { seededRandom } from '../core/units/random';
import { isPdf, sessionInside, withSessionInside } from './attached-session';
import { sheetModel, type SheetPart } from './sheet-model';
import { sheetPdf } from './sheet-pdf';
import { fonts } from '../cli/fonts';

/** Somebody else puts a rig up from what the sheet says, and nothing else. */

const metres = (text: string): number => {
  const found = /([\d.]+)\s(m|cm)/.exec(text.replaceAll('\u00a0', ' '));
  if (!found) throw new Error(`no length in “${text}”`);
  return Number(found[1]) * (found[2] === 'cm' ? 0.01 : 1);
};
const turned = (text: string): number => {
  if (/straight downstage/.test(text)) return 180;
  const found = /([\d.]+)° (left|right)/.exec(text);
  return found ? Number(found[1]) * (found[2] === 'left' ? -1 : 1) : 0;
};
const tilted = (text: string): number => {
  const found = /([\d.]+)° (down|up)/.exec(text);
  return found ? Number(found[1]) * (found[2] === 'down' ? -1 : 1) : 0;
};

/** The floor point that the printed tapes lead to; of several stands the middle of theirs. */
function floorPoint(part: SheetPart, session: Session): { x: number; y: number } {
  const [a, b] = session.venue.datumPoints;
  if (!a || !b) throw new Error('no tape points');
  const meet = (tapes: readonly [string, string], side: string): { x: number; y: number } => {
    const far = side.startsWith('upstage') ? 1e4 : -1e4;
    const at = whereTapesMeet(a, b, [metres(tapes[0]), metres(tapes[1])], { x: 0, y: far });
    if (!at) throw new Error('the tapes do not meet');
    return at;
  };
  const line = part.lines.find((text) => text.startsWith('Floor point'));
  if (line) {
    const [, first = '', second = '', side = ''] =
      /centre: (.*) from tape A, (.*) from tape B, (\w+)/.exec(line) ?? [];
    return meet([first, second], side);
  }
  const places = part.positions.rows.map((row) => meet([row[3] ?? '', row[4] ?? ''], row[5] ?? ''));
  const mean = (axis: 'x' | 'y'): number =>
    places.reduce((sum, place) => sum + place[axis], 0) / places.length;
  return { x: mean('x'), y: mean('y') };
}

function techniqueOf(part: SheetPart, array: MicArray): MicArray['technique'] {
  const { technique } = array;
  if (technique.kind !== 'pair') return technique;
  const line = part.lines.find((text) => text.startsWith('Capsule to capsule')) ?? '';
  const angle = /included angle ([\d.]+)°/.exec(line)?.[1];
  return { ...technique, spacingM: metres(line), includedAngleDeg: Number(angle) };
}

function rebuilt(session: Session): Session {
  const { parts } = sheetModel(session, false);
  return {
    ...session,
    arrays: session.arrays.map((array) => {
      const part = parts.find(({ title }) => title === array.name);
      if (!part) return array;
      const centre = part.lines.find((text) => text.startsWith('Centre')) ?? '';
      const [, aim = '', tilt = ''] = /aimed (.*?), ([^,]*)\.$/.exec(centre) ?? [];
      return {
        ...array,
        ...floorPoint(part, session),
        z: metres(centre),
        aimDeg: turned(aim),
        tiltDeg: tilted(tilt),
        technique: techniqueOf(part, array),
      };
    }),
  };
}

/** Half of the last digit of what is printed. */
const ROUNDING = {
  x: 0.01,
  y: 0.01,
  z: 0.005,
  aimDeg: 0.05,
  tiltDeg: 0.05,
  spacingM: 0.0005,
  includedAngleDeg: 0.05,
};

/** How far figures may move when every printed figure is off by its rounding, all the wrong way. */
function mayMove(session: Session): { shift: number; db: number } {
  const before = expectedOf(session).players;
  let [shift, db] = [1e-6, 1e-6];
  for (const field of Object.keys(ROUNDING) as (keyof typeof ROUNDING)[]) {
    for (const array of session.arrays) {
      const off = structuredClone(session);
      const own = off.arrays.find(({ id }) => id === array.id) as MicArray;
      const into = field === 'spacingM' || field === 'includedAngleDeg' ? own.technique : own;
      const holder = into as unknown as Record<string, number | undefined>;
      if (holder[field] === undefined) continue;
      holder[field] = (holder[field] ?? 0) + ROUNDING[field];
      const after = expectedOf(off).players;
      const most = (of: (i: number) => number): number => Math.max(...after.map((_, i) => of(i)));
      shift += most((i) => Math.abs((after[i]?.shift ?? 0) - (before[i]?.shift ?? 0)));
      db += most((i) => Math.abs((after[i]?.levelDb ?? 0) - (before[i]?.levelDb ?? 0)));
    }
  }
  return { shift: 1.5 * shift, db: 1.5 * db };
}

/** A set-up that somebody measured by eye: no round figures. */
function odd(seed: number): Session {
  const random = seededRandom(seed);
  const [from] = demoSessions('2026-01-01T00:00:00.000Z') as [Session];
  const session = structuredClone(from);
  for (const array of session.arrays) {
    array.x = random() * 1.2 - 0.6;
    array.y = -0.3 - random();
    array.z = 2.2 + random();
    array.aimDeg = random() * 16 - 8;
    array.tiltDeg = -20 * random();
    if (array.technique.kind !== 'pair') continue;
    array.technique.spacingM = 0.1 + random() * 0.3;
    array.technique.includedAngleDeg = 80 + random() * 40;
  }
  return session;
}

describe('a rig that is put up from its sheet', () => {
  it.each([1, 2, 3, 4, 5, 6, 7, 8])('gives the same figures within its rounding (%i)', (seed) => {
    const session = odd(seed);
    const [was, is] = [expectedOf(session).players, expectedOf(rebuilt(session)).players];
    const most = mayMove(session);
    // The rounding itself is small: nothing is let through by it.
    expect(most.shift).toBeLessThan(0.12);
    for (const [i, player] of was.entries()) {
      expect(Math.abs((is[i]?.shift ?? NaN) - (player.shift ?? NaN)), player.name).toBeLessThan(
        most.shift,
      );
      expect(Math.abs((is[i]?.levelDb ?? NaN) - (player.levelDb ?? NaN)), player.name).toBeLessThan(
        most.db,
      );
    }
  });

  it('gives them exactly from the session inside the PDF', async () => {
    for (const session of demoSessions('2026-01-01T00:00:00.000Z')) {
      const pdf = sheetPdf(session, sheetModel(session, false), fonts());
      const text = writeSessionText(session);
      const inside = await sessionInside(await withSessionInside(pdf, text));
      expect(inside).toEqual({ ok: true, text });
      const read = readSessionText(inside.ok ? inside.text : '');
      expect(read.ok && read.session).toEqual(session);
    }
  });

  it('says why there is none in it', async () => {
    const session = sessionFrom({ title: 'Plain' });
    const pdf = sheetPdf(session, sheetModel(session, false), fonts());
    expect(isPdf(pdf)).toBe(true);
    expect(isPdf(new TextEncoder().encode('{"format":1}'))).toBe(false);
    expect(await sessionInside(pdf)).toMatchObject({
      ok: false,
      message: /^no session is in this PDF/,
    });
    expect(await sessionInside(pdf.slice(0, 400))).toMatchObject({ ok: false });
    expect(await sessionInside(new TextEncoder().encode('%PDF-1.7 nothing'))).toMatchObject({
      ok: false,
    });
  });
});
