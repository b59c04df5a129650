import { amend, strike } from '../document/journals';
import { whenText } from '../bench/when';
import { useSession } from '../document/use-session';
import { useOptions } from './data';
import {
  openVotesOf,
  roundSentences,
  roundsOf,
  trialsOfRound,
  type Round,
} from '../../core/soundcheck';

/** One comparison: who has listened, and what came of it once it is closed. */
function One({ round }: { round: Round }) {
  const { entry, finished, broken } = round;
  const names = entry.names.join(', ');
  return (
    <li className="border-hairline border-b py-2">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <span className="font-semibold">
          {entry.test === 'identification' ? 'Which is which' : 'Which is better'}
        </span>
        <span className="min-w-0 flex-1 truncate" title={names}>
          {names}
        </span>
        <span className="text-muted text-[12.5px]">{whenText(entry.at)}</span>
        <button className="btn btn-ghost btn-xs" onClick={() => strike('log', entry.id)}>
          Strike it
        </button>
      </div>
      {entry.closed ? (
        <ul aria-label="What came of it">
          {roundSentences(round).map((words) => (
            <li key={words}>{words}</li>
          ))}
        </ul>
      ) : (
        <>
          <p className="text-muted">
            {finished.length === 0
              ? 'Nobody has come to its end yet'
              : `Listened: ${finished.map(({ by }) => by || 'somebody without a name').join(', ')}`}
            {broken.length > 0 &&
              `; broken off: ${broken.map(({ by, letters }) => `${by || 'somebody without a name'} after ${letters.length} of ${trialsOfRound(round)}`).join(', ')}`}
            . What came of it is said once nobody else listens.
          </p>
          {finished.length > 0 && (
            <button
              className="btn btn-sm mt-1"
              onClick={() => amend('log', entry.id, { closed: true })}
            >
              Nobody else listens: show what came of it
            </button>
          )}
        </>
      )}
    </li>
  );
}

/** All comparisons of the session, the newest first; and what was said openly. */
export function RoundList() {
  const session = useSession();
  const options = useOptions();
  const rounds = roundsOf(session);
  const open = openVotesOf(session);
  if (rounds.length === 0 && open.length === 0) return null;
  const nameOf = (id: string): string => {
    const option = options.find(({ key }) => key === id);
    const take = session.takes.find((one) => one.id === id);
    return option ? `option ${option.letter}` : take ? `take ${take.number}` : 'a recording';
  };
  return (
    <section aria-label="Comparisons" className="pt-3">
      {rounds.length > 0 && (
        <>
          <h2 className="pb-1 text-[15px]">Blind comparisons</h2>
          <ul>
            {rounds.map((round) => (
              <One key={round.key} round={round} />
            ))}
          </ul>
        </>
      )}
      {open.length > 0 && (
        <>
          <h2 className="pt-3 pb-1 text-[15px]">Said openly</h2>
          <ul aria-label="Said openly">
            {open.map((vote) => (
              <li key={vote.id} className="flex items-baseline gap-3 py-0.5">
                <span className="flex-1">
                  {vote.by || 'Somebody'} prefers {nameOf(vote.choice)} among{' '}
                  {vote.among.map(nameOf).join(', ')}, knowing which it is
                </span>
                <span className="text-muted text-[12.5px]">{whenText(vote.at)}</span>
                <button className="btn btn-ghost btn-xs" onClick={() => strike('log', vote.id)}>
                  Strike it
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}
