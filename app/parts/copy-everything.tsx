import { HardDriveDownload } from 'lucide-react';
import { useCallback, useState } from 'react';
import { useStore } from 'zustand';
import { download } from '../keeping/files';
import { keptOutside, outsideStore, remindLater, reminderText } from '../keeping/outside';
import type { SessionSummary } from '../keeping/storage';
import { notify, notifyFailure } from '../view/notices';

/** An archive that is being packed or unpacked. */
export interface Taking {
  what: string;
  /** 0 … 1 */
  done: number;
  stop: () => void;
}

/** Packs everything of this browser as one file. @param setTaking told how far it is; null when it ended */
export function usePacking(setTaking: (taking: Taking | null) => void): () => Promise<void> {
  return useCallback(async () => {
    const stop = new AbortController();
    const what = 'Packing all sessions';
    const tell = (done: number) => setTaking({ what, done, stop: () => stop.abort() });
    tell(0);
    try {
      const { packEverything } = await import('../keeping/everything');
      const packed = await packEverything({ signal: stop.signal, onProgress: tell });
      download(`rotunda-${new Date().toISOString().slice(0, 10)}.zip`, packed.archive);
      keptOutside();
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
  }, [setTaking]);
}

export const TakingLine = ({ taking }: { taking: Taking | null }) =>
  taking && (
    <p role="status" className="flex items-center gap-3 py-2">
      {taking.what}: {Math.round(100 * taking.done)} %
      <button className="btn btn-xs" onClick={taking.stop}>
        Stop
      </button>
    </p>
  );

/** Says when nothing was kept outside for as long as somebody chose; nothing else. */
export function OutsideReminder({
  sessions,
}: {
  sessions: readonly Pick<SessionSummary, 'updatedAt' | 'deletedAt'>[];
}) {
  const outside = useStore(outsideStore);
  const [taking, setTaking] = useState<Taking | null>(null);
  const [now] = useState(() => Date.now());
  const pack = usePacking(setTaking);
  const text = reminderText(outside, sessions, now);
  if (text === null && taking === null) return null;
  return (
    <div role="note" aria-label="Reminder" className="border-warning mb-4 border-l-2 pl-4">
      <p>{text ?? 'Being kept outside the browser.'} A browser can lose what it holds.</p>
      <TakingLine taking={taking} />
      {taking === null && (
        <p className="flex gap-2 pt-1">
          <button className="btn btn-sm" onClick={() => void pack()}>
            <HardDriveDownload size={15} /> Copy of everything
          </button>
          <button className="btn btn-sm btn-ghost" onClick={remindLater}>
            Tomorrow
          </button>
        </p>
      )}
    </div>
  );
}
