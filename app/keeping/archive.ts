import { MOST_BYTES } from '../../core/session';
import { hashOfFile } from './blobs';
import { importText, type ImportResult } from './library';

/** What an archive may unpack to, all together. */
const MOST_UNPACKED = 1_000_000_000;

const refusal = (message: string): ImportResult => ({
  kind: 'refused',
  problems: [{ path: '', message }],
});

/** Takes in a session from an archive, with what it refers to. Everything else in it is left. */
export async function importArchive(bytes: Uint8Array): Promise<ImportResult> {
  const { unzipSync, strFromU8 } = await import('fflate');
  let room = MOST_UNPACKED;
  const wanted = (name: string): boolean =>
    name.endsWith('.rotunda.json') || hashOfFile(name) !== null;
  let files: Record<string, Uint8Array>;
  try {
    files = unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        if (!wanted(name)) return false;
        room -= originalSize;
        return room >= 0;
      },
    });
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error);
    return refusal(`not an archive that can be unpacked (${reason}); allowed: a zip file`);
  }
  if (room < 0) return refusal('more than 1 GB unpacked; allowed: up to 1 GB');
  const sessions = Object.entries(files).filter(([name]) => hashOfFile(name) === null);
  const [only] = sessions;
  if (!only || sessions.length > 1) {
    return refusal(
      `${sessions.length} session files in the archive; allowed: one file that ends in .rotunda.json`,
    );
  }
  const [, content] = only;
  if (content.length > MOST_BYTES) {
    const size = Math.round(content.length / 1e6);
    return refusal(`${size} MB; allowed: a session of up to ${MOST_BYTES / 1e6} MB`);
  }
  const beside = new Map(
    Object.entries(files).flatMap(([name, file]) => {
      const hash = hashOfFile(name);
      return hash === null ? [] : [[hash, file] as const];
    }),
  );
  return importText(strFromU8(content), beside);
}
