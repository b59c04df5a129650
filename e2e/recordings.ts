import { encodeFrames, wavHeader, type WrittenFormat } from '../core/audio';
import { demoSession } from '../core/demo';
import { newArray, type Session } from '../core/session';
import { imported } from './listening';
import type { Workbench } from './workbench';

/** What tests put on the bench. */

export const RATE = 48_000;

interface Made {
  name: string;
  planes: readonly Float32Array[];
  rate?: number;
  channelNames?: string[];
}

export interface MadeFile {
  name: string;
  mimeType: string;
  buffer: Buffer;
}

/** A WAV file of 24 bits. */
export function file({ name, planes, rate = RATE, channelNames }: Made): MadeFile {
  const format: WrittenFormat = {
    kind: 'integer',
    bits: 24,
    channels: planes.length,
    sampleRateHz: rate,
  };
  const frames = planes[0]?.length ?? 0;
  const header = wavHeader(format, frames, channelNames ? { channelNames } : {});
  const parts = [header, encodeFrames([...planes], frames, format)];
  return {
    name,
    mimeType: 'audio/wav',
    buffer: Buffer.concat(parts.map((part) => Buffer.from(part))),
  };
}

export async function opened({ page }: Workbench, files: MadeFile[]): Promise<void> {
  const choosing = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Open recordings' }).first().click();
  await (await choosing).setFiles(files);
}

/** A main pair of omnis and two spots: four inputs. */
export function fourInputs(): Session {
  const demo = demoSession('2026-01-01T00:00:00Z');
  const spot = (id: string, name: string, x: number) =>
    newArray({
      ...{ id, name, role: 'spot' as const, x, y: 2, z: 1.8, aimDeg: 0, tiltDeg: -30 },
      technique: { kind: 'single', pattern: 'cardioid' },
    });
  return {
    ...demo,
    id: 'own-four',
    title: 'Own four',
    arrays: [
      newArray({
        ...{ id: 'main', name: 'Main pair', x: 0, y: 0, z: 2.8, aimDeg: 0, tiltDeg: 0 },
        technique: { kind: 'pair', pattern: 'omni', spacingM: 0.6, includedAngleDeg: 0 },
      }),
      spot('flute', 'Spot flute', -2),
      spot('horn', 'Spot horn', 1),
    ],
  };
}

/** The bench of a session that is one's own. */
export async function ownBench(bench: Workbench, session = fourInputs()): Promise<void> {
  await imported(bench, session);
  await bench.go('bench');
}

export const says = ({ page }: Workbench) => page.getByRole('list', { name: 'What it says' });
