import { useMemo, useState } from 'react';
import type { Plan } from '../../core/session';
import { channelsOf, type Place } from '../../core/verdict';
import type { Tasks } from '../workers/tasks';
import { useTask } from '../workers/use-task';
import { stretchText, type PageProps, type Seconds } from './asked';

type Who = Place | null;

interface PassagesProps {
  passages: readonly { at: Seconds; who: Who }[];
  places: readonly Place[];
  choose: (index: number, who: Who) => void;
  go: PageProps['go'];
}

/** Who is alone when. */
export function Passages({ passages, places, choose, go }: PassagesProps) {
  return (
    <table className="ledger-table max-w-xl" aria-label="Who is alone when">
      <thead>
        <tr>
          <th>Passage</th>
          <th>Who is alone</th>
        </tr>
      </thead>
      <tbody>
        {passages.map(({ at, who }, i) => (
          <tr key={`${at.fromS} ${at.toS}`}>
            <td>
              <button className="btn btn-ghost btn-xs" onClick={() => go(at)}>
                {stretchText(at)}
              </button>
            </td>
            <td>
              <select
                aria-label={`Who is alone in ${stretchText(at)}`}
                className="select select-xs w-auto max-w-60"
                value={who?.id ?? ''}
                onChange={(event) => {
                  const { value } = event.currentTarget;
                  choose(i, places.find(({ id }) => id === value) ?? null);
                }}
              >
                <option value="">nobody: leave it out</option>
                {places.map(({ id, name }) => (
                  <option key={id} value={id}>
                    {name}
                  </option>
                ))}
              </select>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Who is alone when: as it was found, and as it was said. */
export function usePassages(
  recording: PageProps['recording'],
  plan: Plan,
  places: readonly Place[],
) {
  const { source, binding } = recording;
  const bound = channelsOf(plan, binding)
    .map(({ channel }) => channel)
    .join(' ');
  // By their numbers: an edit elsewhere in the plan does not look for the passages anew.
  const channels = useMemo(() => bound.split(' ').filter(Boolean).map(Number), [bound]);
  const [given, setGiven] = useState(false);
  const ask = useMemo(
    () => (channels.length < 2 || given ? null : { file: source, channels }),
    [source, channels, given],
  );
  const found = useTask('passages', ask);
  const [byHand, setByHand] = useState<readonly Seconds[]>([]);
  const [chosen, setChosen] = useState<Readonly<Record<number, Who>>>({});
  const all = [...(found.value ?? []), ...byHand];
  const passages = all.map((at, i) => {
    // Only as many as were announced are in their order.
    const who = i in chosen ? chosen[i] : all.length === places.length ? places[i] : null;
    return { at, who: who ? (places.find(({ id }) => id === who.id) ?? null) : null };
  });
  return {
    channels,
    found,
    giveUp: () => setGiven(true),
    passages,
    add: (at: Seconds) => setByHand([...byHand, at]),
    addLeads: (leads: Tasks['leads']['answer']) => {
      const from = all.length;
      setByHand([...byHand, ...leads.map(({ fromS, toS }) => ({ fromS, toS }))]);
      // Those before stay whose they are, however many there are now.
      const before = passages.map(({ who }, i) => [i, who] as const);
      const theirs = leads.map(({ place }, i) => [from + i, place] as const);
      setChosen({ ...chosen, ...Object.fromEntries([...before, ...theirs]) });
    },
    choose: (i: number, who: Who) => setChosen({ ...chosen, [i]: who }),
  };
}
