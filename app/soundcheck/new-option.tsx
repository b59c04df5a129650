import { Plus } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import type { Plan } from '../../core/session';
import { useSession } from '../document/use-session';
import { notify } from '../view/notices';
import { nextLetter, optionName, type Option } from '../../core/soundcheck';
import { addOption, planOfOption, soundingChanges, startsOf } from './data';

interface Props {
  options: readonly Option[];
  last: { option: Option; plan: Plan } | null;
}

/** The plan that is chosen to begin with: another option's comes as it is read. */
function useStart(id: string, options: readonly Option[]): Plan | null {
  const session = useSession();
  const starts = useMemo(() => startsOf(session), [session]);
  const option = options.find(({ key }) => id === `option ${key}`) ?? null;
  const [read, setRead] = useState<{ of: string; plan: Plan | null } | null>(null);
  useEffect(() => {
    if (!option) return;
    let wanted = true;
    void planOfOption(session, option).then(
      (plan) => wanted && setRead({ of: option.entry.version, plan }),
    );
    return () => {
      wanted = false;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- its version is all that matters of it
  }, [option?.entry.version, session.id]);
  if (option) return read?.of === option.entry.version ? read.plan : null;
  return starts.find((start) => start.id === id)?.plan ?? starts[0]?.plan ?? null;
}

/** What is up now becomes an option: of the plan, as it was built, a candidate, another option. */
export function NewOption({ options, last }: Props) {
  const session = useSession();
  const starts = useMemo(() => startsOf(session), [session]);
  const [from, setFrom] = useState('plan');
  const [name, setName] = useState('');
  const [why, setWhy] = useState('');
  const plan = useStart(from, options);
  const letter = nextLetter(session);
  const changes = useMemo(
    () => (plan && last ? soundingChanges(last.plan, plan) : null),
    [plan, last],
  );
  const make = (): void => {
    if (!plan) return;
    if (addOption(plan, last, { name: name.trim(), why: why.trim() }) === '') return;
    notify(`Option ${letter} is in the diary, with its version of the plan.`);
    setName('');
    setWhy('');
  };
  return (
    <form
      aria-label="New option"
      className="flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        make();
      }}
    >
      <h2 className="text-[15px]">Option {letter}</h2>
      <label className="flex flex-col">
        <span className="text-muted">From</span>
        <select
          className="select select-sm w-full text-ellipsis"
          value={from}
          onChange={(event) => setFrom(event.currentTarget.value)}
        >
          {starts.map((start) => (
            <option key={start.id} value={start.id}>
              {start.name}
            </option>
          ))}
          {options.map((option) => (
            <option key={option.key} value={`option ${option.key}`}>
              {optionName(option)}
            </option>
          ))}
        </select>
      </label>
      <label className="flex flex-col">
        <span className="text-muted">Called</span>
        <input
          className="input input-sm w-full"
          maxLength={200}
          value={name}
          placeholder="closer, lower, omnis …"
          onChange={(event) => setName(event.currentTarget.value)}
        />
      </label>
      <label className="flex flex-col">
        <span className="text-muted">Why</span>
        <textarea
          className="textarea textarea-sm w-full text-[13.5px]"
          rows={2}
          maxLength={2000}
          value={why}
          onChange={(event) => setWhy(event.currentTarget.value)}
        />
      </label>
      {changes && last && (
        <p role="status" aria-label="Against the last one" className="text-[12.5px]">
          {changes.length === 0
            ? `Nothing that could be heard is other than in option ${last.option.letter}. Change the plan on Floor or Array first, or begin from a symptom.`
            : changes.length === 1
              ? `One thing is other than in option ${last.option.letter}: ${changes[0]?.words}.`
              : `${changes.length} things are other than in option ${last.option.letter}: what of them is heard cannot be told apart then.`}
        </p>
      )}
      <button type="submit" className="btn btn-sm btn-primary self-start" disabled={!plan}>
        <Plus size={14} /> Into the diary
      </button>
    </form>
  );
}
