import { readSessionText } from '../../core/session';
import { run, type Options } from '../workers/run';
import type { PackedFile } from '../contents/names';
import { missingOf, takeInHashed } from './blobs';
import { importText, type ImportResult } from './library';
import type { Unpacked } from '../contents/zip';

const refusal = (message: string): ImportResult => ({
  kind: 'refused',
  problems: [{ path: '', message }],
});

async function unpacked(file: Blob, help: Options): Promise<Unpacked> {
  if (typeof Worker !== 'undefined') return run('unpack', file, help);
  return (await import('../contents/zip')).unpackArchive(file);
}

/** As many names as are read at a glance. */
function named(names: readonly string[]): string {
  const some = names.slice(0, 3).map((name) => `“${name}”`);
  return some.join(', ') + (names.length > 3 ? ` and ${names.length - 3} more` : '');
}

/**
 * Takes in a session from an archive, with what it names. Everything else in it is left, and what is
 * missing or is not what its name says is told.
 */
export async function importArchive(file: Blob, help: Options = {}): Promise<ImportResult> {
  const found = await unpacked(file, help);
  if (found.kind === 'refused') return refusal(found.message);
  const { sessions, library, contents, wrong, cut } = found;
  if (library) {
    const { takeInEverything } = await import('./everything');
    return takeInEverything({ ...found, library });
  }
  const text = (await sessions[0]?.text()) ?? '';
  const read = readSessionText(text);
  if (!read.ok) return { kind: 'refused', problems: read.problems };
  await takeInHashed(contents, read.session);
  const result = await importText(text);
  if (result.kind === 'refused') return result;
  const nameOf = (hash: string): string => {
    const name = read.session.blobs.find((blob) => blob.hash === hash)?.name ?? '';
    return name === '' ? `${hash.slice(0, 8)} …` : name;
  };
  const missing = (await missingOf(read.session)).filter(
    ({ data, hash }) => data === null && !wrong.includes(hash),
  );
  const said = [
    ...('said' in result && result.said !== undefined ? [result.said] : []),
    ...(cut ? ['The archive is cut off: what is whole in it came in.'] : []),
    ...(wrong.length > 0
      ? [`Damaged in the archive, so left out: ${named(wrong.map(nameOf))}.`]
      : []),
    ...(missing.length > 0
      ? [`Not in the archive: ${named(missing.map(({ hash }) => nameOf(hash)))}.`]
      : []),
  ];
  return said.length > 0 ? { ...result, said: said.join(' ') } : result;
}

/** An archive of files, written beside the page: never all of it in memory. */
export async function packArchive(files: PackedFile[], help: Options = {}): Promise<Blob> {
  if (typeof Worker !== 'undefined') return run('pack', files, help);
  return (await (await import('../contents/zip')).packFiles(files, null)) ?? new Blob();
}
