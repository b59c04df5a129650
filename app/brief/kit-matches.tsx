import { matchText } from '../../core/kit';
import { filterWords } from '../../core/recorded';
import { edit } from '../document/session-store';
import { useSession } from '../document/use-session';

/** Pairs that were measured against each other on the bench. */
export function MeasuredPairs() {
  const { kit } = useSession();
  const rows = kit.microphones.flatMap((mic) =>
    mic.matches.map((match, index) => ({ mic, match, index })),
  );
  if (rows.length === 0) return null;
  return (
    <section aria-labelledby="pairs-heading">
      <h2 id="pairs-heading" className="pb-1 text-[17px]">
        Measured pairs
      </h2>
      <ul aria-label="Measured pairs">
        {rows.map(({ mic, match, index }) => (
          <li
            key={`${mic.id} ${index}`}
            className="border-hairline flex flex-wrap items-baseline gap-x-3 border-b py-1"
          >
            <span className="font-semibold">{mic.name}</span>
            <span>{matchText(match)}</span>
            {match.filters.length > 0 && (
              <span className="text-muted text-[12.5px]">
                {match.filters.map(filterWords).join('; ')}
              </span>
            )}
            <button
              className="btn btn-ghost btn-xs ml-auto"
              aria-label={`Remove ${match.name} of ${mic.name}`}
              onClick={() =>
                edit((draft) => {
                  const entry = draft.kit.microphones.find(({ id }) => id === mic.id);
                  entry?.matches.splice(index, 1);
                })
              }
            >
              ×
            </button>
          </li>
        ))}
      </ul>
      <p className="text-muted max-w-[76ch] pt-1 text-[12.5px]">
        What a set-up is reckoned to be off by in level, and As built, go by the pair that stands
        there. Where an array can be one of several, As built asks which.
      </p>
    </section>
  );
}
