import { useState } from 'react';
import { MOST_BYTES, type Problem, type Session } from '../../core/session';
import { isArchive } from '../contents/names';
import { download } from '../keeping/files';
import { importAsCopy, importReplacing, importText, type ImportResult } from '../keeping/library';
import { notify, notifyFailure } from '../view/notices';

/** An archive that is being packed or unpacked. */
interface Taking {
  what: string;
  /** 0 … 1 */
  done: number;
  stop: () => void;
}

/**
 * Files that come in and go out: sessions, archives, all of it.
 * @param openIt opens a session that came
 * @param refresh reads the list anew
 */
export function useFiles(openIt: (id: string) => void, refresh: () => void) {
  const [refused, setRefused] = useState<{ file: string; problems: Problem[] } | null>(null);
  const [clash, setClash] = useState<Session | null>(null);
  const [taking, setTaking] = useState<Taking | null>(null);

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

  /** Everything of this browser as one file. */
  async function pack() {
    const stop = new AbortController();
    const what = 'Packing all sessions';
    const tell = (done: number) => setTaking({ what, done, stop: () => stop.abort() });
    tell(0);
    try {
      const { packEverything } = await import('../keeping/everything');
      const packed = await packEverything({ signal: stop.signal, onProgress: tell });
      download(`rotunda-${new Date().toISOString().slice(0, 10)}.zip`, packed.archive);
      const { damaged, missing } = packed;
      const said = [
        ...(damaged.length > 0
          ? [`${damaged.length} cannot be read and are in it as they are stored`]
          : []),
        ...(missing > 0 ? [`${missing} pictures and sounds are not here`] : []),
      ];
      if (said.length > 0) notify(`The archive was made; of its sessions ${said.join(', ')}.`);
    } catch (error) {
      if (!stop.signal.aborted) notifyFailure(error);
    } finally {
      setTaking(null);
    }
  }

  async function takeFile(file: File) {
    setRefused(null);
    const zipped = await isArchive(file);
    if (!zipped && file.size > MOST_BYTES) {
      const message = `${Math.round(file.size / 1e6)} MB; allowed: a file of up to ${MOST_BYTES / 1e6} MB`;
      return setRefused({ file: file.name, problems: [{ path: '', message }] });
    }
    const result = zipped ? await unpacked(file) : await importText(await file.text());
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
