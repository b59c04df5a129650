import { standing, type BlobReference, type LogEntry } from '../../core/session';
import { useSession } from '../document/use-session';
import { usePicture } from '../keeping/use-picture';

type Note = Extract<LogEntry, { kind: 'note' }>;

function Picture({
  id,
  blobs,
  words,
}: {
  id: string;
  blobs: readonly BlobReference[];
  words: string;
}) {
  const address = usePicture(blobs, id);
  return address === null ? (
    <span className="text-muted">The picture is not here.</span>
  ) : (
    <a href={address} target="_blank" rel="noreferrer">
      <img src={address} alt={words} className="h-32 w-auto" />
    </a>
  );
}

/** Words and photographs that came from the hall, the newest first. */
export function StagePhotographs() {
  const { log, blobs } = useSession();
  const notes = standing(log).filter(
    (entry): entry is Note =>
      entry.kind === 'note' && ((entry as Note).photographs ?? []).length > 0,
  );
  if (notes.length === 0) return null;
  return (
    <section aria-label="Photographs from the stage">
      <h2 className="text-[16px]">Photographs from the stage</h2>
      <ul className="flex flex-wrap gap-4 pt-2">
        {notes.reverse().map(({ id, by, text, at, photographs }) => (
          <li key={id}>
            {photographs.map((one) => (
              <Picture key={one} id={one} blobs={blobs} words={`${text} ${by}`} />
            ))}
            <p className="text-[12.5px]">
              {by}: {text}{' '}
              <span className="text-muted">
                {new Date(at).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' })}
              </span>
            </p>
          </li>
        ))}
      </ul>
    </section>
  );
}
