import { useState } from 'react';
import { MOST_BYTES, type Problem, type Session } from '../../core/session';
import { isArchive } from '../contents/names';
import { importAsCopy, importReplacing, importText, type ImportResult } from '../keeping/library';
import { usePacking, type Taking } from '../parts/copy-everything';
import { notify, notifyFailure } from '../view/notices';

/**
 * Files that come in and go out: sessions, archives, all of it.
 * @param openIt opens a session that came
 * @param refresh reads the list anew
 */
export function useFiles(openIt: (id: string) => void, refresh: () => void) {
  const [refused, setRefused] = useState<{ file: string; problems: Problem[] } | null>(null);
  const [clash, setClash] = useState<Session | null>(null);
  const [taking, setTaking] = useState<Taking | null>(null);
  const pack = usePacking(setTaking);

  /** What an archive holds; null where it was given up. */
  async function unpacked(file: File): Promise<ImportResult | null> {
    const stop = new AbortController();
    const what = `Unpacking “${file.name}”`;
    const tell = (done: number) => setTaking({ what, done, stop: () => stop.abort() });
    tell(0);
    try {
      const { importArchive } = await import('../keeping/archive');
      return await importArchive(file, { signal: stop.signal, onProgress: tell });
    } catch (error) {
      if (stop.signal.aborted) return null;
      throw error;
    } finally {
      setTaking(null);
    }
  }

  async function takeFile(file: File) {
    setRefused(null);
    const zipped = await isArchive(file);
    const { isPdf, sessionInside } = await import('../../paper/attached-session');
    const printed = isPdf(new Uint8Array(await file.slice(0, 5).arrayBuffer()));
    if (!zipped && file.size > MOST_BYTES) {
      const message = `${Math.round(file.size / 1e6)} MB; allowed: a file of up to ${MOST_BYTES / 1e6} MB`;
      return setRefused({ file: file.name, problems: [{ path: '', message }] });
    }
    const inside = printed ? await sessionInside(new Uint8Array(await file.arrayBuffer())) : null;
    if (inside && !inside.ok) {
      return setRefused({ file: file.name, problems: [{ path: '', message: inside.message }] });
    }
    const result = zipped
      ? await unpacked(file)
      : await importText(inside ? inside.text : await file.text());
    if (!result) return;
    if ('said' in result && result.said !== undefined) notify(result.said);
    if (result.kind === 'refused') setRefused({ file: file.name, problems: result.problems });
    else if (result.kind === 'clash') setClash(result.session);
    else if (result.kind === 'everything') refresh();
    else {
      openIt(result.id);
      if (result.modelAssumed) {
        notify(
          'This file is of version 1 and names no localisation model: its images now come from the consensus of three. “Image by” chooses another.',
        );
      }
    }
  }

  function settleClash(choice: 'copy' | 'replace' | 'cancel') {
    const session = clash;
    setClash(null);
    if (!session || choice === 'cancel') return;
    const work = choice === 'copy' ? importAsCopy(session) : importReplacing(session);
    work.then(openIt, notifyFailure);
  }

  return { taking, refused, clash, pack, takeFile, settleClash };
}
