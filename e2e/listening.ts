import type { Page } from '@playwright/test';
import { demoSession } from '../core/demo';
import type { Session } from '../core/session';
import { expect, type Workbench } from './workbench';

/** What is heard, read as samples. */
export interface Captured {
  left: Float32Array;
  right: Float32Array;
  /** of the loop, for each sample */
  frames: Int32Array;
  /** of the first sample, on the clock of the sound */
  timeS: number;
}

/** What is heard, as samples: what goes out, or what is mixed before it is listened to in any way. */
export async function captured(page: Page, count: number, what: 'out' | 'mix'): Promise<Captured> {
  const { timeS, ...bytes } = await page.evaluate(
    ([count, what]) =>
      new Promise<Record<'left' | 'right' | 'frames', string> & { timeS: number }>((done) => {
        const packed = ({ buffer }: Float32Array | Int32Array): string => {
          let text = '';
          for (const byte of new Uint8Array(buffer)) text += String.fromCharCode(byte);
          return btoa(text);
        };
        const take = ({ left, right, frames, timeS }: Captured) =>
          done({ left: packed(left), right: packed(right), frames: packed(frames), timeS });
        dispatchEvent(new CustomEvent('listen-capture', { detail: { frames: count, what, take } }));
      }),
    [count, what] as const,
  );
  const bufferOf = (text: string): ArrayBuffer =>
    Uint8Array.from(Buffer.from(text, 'base64')).buffer;
  return {
    left: new Float32Array(bufferOf(bytes.left)),
    right: new Float32Array(bufferOf(bytes.right)),
    frames: new Int32Array(bufferOf(bytes.frames)),
    timeS,
  };
}

export const seek = (page: Page, frame: number): Promise<unknown> =>
  page.evaluate((frame) => {
    dispatchEvent(new CustomEvent('listen-post', { detail: { kind: 'seek', frame } }));
  }, frame);

export const levelDb = (samples: Float32Array): number =>
  10 * Math.log10(samples.reduce((sum, v) => sum + v * v, 0) / samples.length + 1e-20);

export const heard = (page: Page) => page.getByRole('status', { name: 'What is heard' });

/** Playing, with everything made that is to be heard. */
export async function playing(page: Page): Promise<void> {
  await expect(heard(page)).toHaveText(/^simulation/);
  await expect(heard(page)).not.toContainText('being made');
}

/** The same, and nothing is left out for a busy machine. */
export async function playingWhole(page: Page): Promise<void> {
  await playing(page);
  await expect(heard(page)).not.toContainText(/being made|without reflections/);
}

export async function imported({ page }: Workbench, session: Session): Promise<void> {
  await page.goto('/');
  const choosing = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Import a file' }).click();
  const buffer = Buffer.from(JSON.stringify(session));
  await (
    await choosing
  ).setFiles({ name: 'own.rotunda.json', mimeType: 'application/json', buffer });
  await page.getByRole('main', { name: 'Floor' }).waitFor();
}

/** One player of noise, so that a delay can be told; and no room, so that there is one way only. */
export function oneOfNoise(): Session {
  const demo = demoSession('2026-01-01T00:00:00Z');
  const [player] = demo.sources;
  if (!player) throw new Error('no player');
  return {
    ...demo,
    id: 'own-noise',
    sources: [{ ...player, kind: 'waterfall', widthM: 0, depthM: 0 }],
    venue: { ...demo.venue, widthM: null },
  };
}
