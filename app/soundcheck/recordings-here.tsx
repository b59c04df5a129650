import { FolderOpen } from 'lucide-react';
import { useEffect } from 'react';
import { useStore } from 'zustand';
import { reopen } from '../bench/known';
import { openRecordings } from '../bench/opening';
import { benchOf, benchStore, forgetRefused } from '../bench/recordings';
import { ACCEPTED } from '../bench/takes';
import { useSession } from '../document/use-session';
import { chooseRecordings } from '../keeping/recordings';
import { notifyFailure } from '../view/notices';

/** Recordings of the Bench are here as well: those of before are open again, and more can be opened. */
export function RecordingsHere() {
  const session = useSession();
  const { opening } = useStore(benchStore, ({ of }) => benchOf(of, session.id));
  useEffect(() => {
    reopen(session).catch(notifyFailure);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once a session
  }, [session.id]);
  return (
    <div>
      <button
        className="btn btn-sm"
        onClick={() => {
          forgetRefused(session.id);
          void chooseRecordings(ACCEPTED)
            .then((files) => (files.length > 0 ? openRecordings(session, files) : undefined))
            .catch(notifyFailure);
        }}
      >
        <FolderOpen size={14} /> Open recordings
      </button>
      {opening.map(({ name, problem }, i) => (
        <p
          key={`${name} ${i}`}
          role={problem === null ? 'status' : 'alert'}
          className={problem === null ? 'text-muted pt-1' : 'text-error pt-1'}
        >
          {problem === null ? `Opening ${name} …` : `${name} was not opened: ${problem}`}
        </p>
      ))}
    </div>
  );
}
