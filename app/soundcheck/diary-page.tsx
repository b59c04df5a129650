import { useSearchParams } from 'react-router';
import { heldAgainst, noteText, notesAbout, optionOfTake, takesOf } from '../../core/soundcheck';
import { useSession } from '../document/use-session';
import { chooseCompared } from './compared';
import { useOptions, usePlansOf } from './data';
import { DayLine } from './day-line';
import { useFirstOption } from './first-option';
import { NewOption } from './new-option';
import { OptionCard } from './option-card';

/** What to do first, and a way to try everything on the day before. */
function FirstOption() {
  const session = useSession();
  const { done, begin } = useFirstOption();
  return (
    <div className="border-hairline mb-4 border-2 border-dashed px-8 py-8 max-md:px-4">
      <h2 className="text-[16px]">Which of these, and why?</h2>
      <p className="text-muted max-w-[64ch] pt-2 pb-4">
        Everything that is tried becomes an option of this diary: the plan as it was then, what
        changed, what was expected and what was heard. Put up the first one as it is planned, then
        change one thing at a time. On the day before, simulate the plan and hear the options as the
        microphones would.
      </p>
      <button
        className="btn btn-sm btn-primary"
        disabled={done !== null || session.sources.length === 0}
        onClick={begin}
      >
        {done === null ? 'Simulate this plan' : `Being made: ${Math.round(100 * done)} %`}
      </button>
      {session.sources.length === 0 && (
        <p className="text-muted pt-2">There are no players yet: add some on the Floor first.</p>
      )}
    </div>
  );
}

/** The options of this session in their order, the last one open. */
export function DiaryPage() {
  const session = useSession();
  const options = useOptions();
  const plans = usePlansOf(options);
  const [, setParams] = useSearchParams();
  const takes = takesOf(session);
  const last = options[options.length - 1];
  const lastPlan = last && plans.value?.get(last.key);
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_17rem] gap-x-8 max-lg:grid-cols-1">
      <section aria-label="Diary" className="min-w-0">
        {options.length === 0 && <FirstOption />}
        {options.map((option, i) => {
          const before = heldAgainst(options, i);
          return (
            <OptionCard
              key={option.key}
              option={option}
              before={before}
              isNext={before === (options[i - 1] ?? null)}
              plan={plans.value?.get(option.key) ?? null}
              beforePlan={(before && plans.value?.get(before.key)) ?? null}
              busy={plans.busy}
              open={i === options.length - 1}
              takes={takes
                .filter(({ take }) => optionOfTake(options, take)?.key === option.key)
                .map(
                  ({ take }) => `take ${take.number}${take.name === '' ? '' : `, ${take.name}`}`,
                )}
              notes={notesAbout(session, option.key).map((note) => noteText(note, session))}
              compare={() => {
                chooseCompared(session.id, [...(before ? [before.key] : []), option.key]);
                setParams({ page: 'compare' });
              }}
            />
          );
        })}
      </section>
      <aside aria-label="Next" className="flex flex-col gap-4 max-lg:order-first max-lg:pb-4">
        <DayLine />
        <NewOption
          options={options}
          last={last && lastPlan ? { option: last, plan: lastPlan } : null}
        />
      </aside>
    </div>
  );
}
