import { fieldKey } from '../view/validity';
import { ArrowDown, ArrowUp, Download, TriangleAlert } from 'lucide-react';
import { planDay, timeText, usualDay, withBreaks } from '../../core/planning';
import type { TimetableEntry } from '../../core/session';
import { TimeField } from '../parts/date-fields';
import { Readout, TextField } from '../parts/fields';
import { QuantityField } from '../parts/quantity-field';
import { minutesKind } from '../parts/quantity-kinds';
import { download, fileName } from '../keeping/files';
import { newId } from '../document/new-id';
import { edit } from '../document/session-store';
import { notify } from '../view/notices';
import { useSession } from '../document/use-session';
import { dayCalendar } from './day-ics';

const KINDS: readonly TimetableEntry['kind'][] = [
  'load-in',
  'build',
  'line-check',
  'option',
  'take',
  'break',
  'strike',
  'other',
];

function changeEntry(id: string, change: Partial<TimetableEntry>): void {
  edit((draft) => {
    const entry = draft.brief.timetable.entries.find((known) => known.id === id);
    if (entry) Object.assign(entry, change);
  });
}

function move(index: number, by: 1 | -1): void {
  edit((draft) => {
    const { entries } = draft.brief.timetable;
    const [entry] = entries.splice(index, 1);
    if (entry) entries.splice(index + by, 0, entry);
  });
}

function EntryRow(props: { entry: TimetableEntry; index: number; last: boolean; times: string }) {
  const { entry, index, last, times } = props;
  return (
    <tr>
      <td className="whitespace-nowrap">{times}</td>
      <td className="w-56">
        <TextField
          bare
          label={`Entry ${index + 1}`}
          value={entry.title}
          most={200}
          onCommit={(title) => changeEntry(entry.id, { title })}
        />
      </td>
      <td>
        <select
          aria-label={`${entry.title}, kind`}
          className="select select-xs w-28"
          value={entry.kind}
          onChange={(event) => {
            const kind = KINDS.find((known) => known === event.currentTarget.value);
            if (kind) changeEntry(entry.id, { kind, playing: kind === 'take' });
          }}
        >
          {KINDS.map((kind) => (
            <option key={kind}>{kind}</option>
          ))}
        </select>
      </td>
      <td>
        <QuantityField
          bare
          label={`${entry.title}, minutes`}
          fieldKey={fieldKey('day', '', entry.id)}
          kind={minutesKind}
          value={entry.minutes}
          onCommit={(minutes) => minutes !== null && changeEntry(entry.id, { minutes })}
        />
      </td>
      <td className="text-center">
        <input
          type="checkbox"
          aria-label={`${entry.title}: the players play`}
          className="checkbox checkbox-xs"
          checked={entry.playing}
          onChange={(event) => changeEntry(entry.id, { playing: event.currentTarget.checked })}
        />
      </td>
      <td className="whitespace-nowrap">
        <button
          className="btn btn-ghost btn-xs btn-square"
          aria-label={`${entry.title} earlier`}
          disabled={index === 0}
          onClick={() => move(index, -1)}
        >
          <ArrowUp size={13} />
        </button>
        <button
          className="btn btn-ghost btn-xs btn-square"
          aria-label={`${entry.title} later`}
          disabled={last}
          onClick={() => move(index, 1)}
        >
          <ArrowDown size={13} />
        </button>
        <button
          className="btn btn-ghost btn-xs btn-square"
          aria-label={`Remove ${entry.title}`}
          onClick={() =>
            edit((draft) => {
              const { timetable } = draft.brief;
              timetable.entries = timetable.entries.filter(({ id }) => id !== entry.id);
            })
          }
        >
          ×
        </button>
      </td>
    </tr>
  );
}

const newEntry = (): TimetableEntry => ({
  id: newId(),
  title: 'New entry',
  kind: 'other',
  minutes: 15,
  playing: false,
});

function Actions() {
  const session = useSession();
  const { timetable } = session.brief;
  const options = Math.max(1, session.candidates.length + 1);
  const set = (entries: TimetableEntry[]) =>
    edit((draft) => void (draft.brief.timetable.entries = entries));
  function exportCalendar() {
    const text = dayCalendar(session);
    if (text === null)
      notify('Give the date in Brief, The job, as 2026-12-31: a calendar needs it.');
    else download(fileName(session.title, 'ics'), new Blob([text], { type: 'text/calendar' }));
  }
  return (
    <div className="flex flex-wrap gap-2 py-3">
      <button
        className="btn btn-sm font-normal"
        onClick={() => edit((draft) => void draft.brief.timetable.entries.push(newEntry()))}
      >
        Add an entry
      </button>
      {timetable.entries.length === 0 && (
        <button
          className="btn btn-sm btn-primary font-normal"
          onClick={() => set(usualDay(options, newId))}
        >
          Begin with a usual day
        </button>
      )}
      {timetable.entries.length > 0 && (
        <>
          <button
            className="btn btn-sm font-normal"
            onClick={() => set(withBreaks(timetable, newId))}
          >
            Put in the breaks that are due
          </button>
          <button className="btn btn-sm font-normal" onClick={exportCalendar}>
            <Download size={14} /> Calendar file
          </button>
        </>
      )}
    </div>
  );
}

/** The day in order: times, sums, breaks, what does not go together. */
export function DayPage() {
  const { timetable } = useSession().brief;
  const plan = planDay(timetable);
  const set = (change: Partial<typeof timetable>) =>
    edit((draft) => void Object.assign(draft.brief.timetable, change));
  return (
    <div className="grid max-w-6xl grid-cols-1 gap-x-10 gap-y-6 lg:grid-cols-[300px_1fr]">
      <section aria-labelledby="rules-heading">
        <h2 id="rules-heading" className="pb-2 text-[17px]">
          The day
        </h2>
        <TimeField
          label="Begins"
          required
          value={timetable.start}
          onCommit={(start) => start !== null && set({ start })}
        />
        <TimeField
          label="Hall to be left by"
          value={timetable.end}
          onCommit={(end) => set({ end })}
        />
        <QuantityField
          label="A break after playing for"
          fieldKey={fieldKey('day', '', 'breakAfter')}
          kind={minutesKind}
          value={timetable.breakAfterMin}
          onCommit={(value) => value !== null && set({ breakAfterMin: value })}
        />
        <QuantityField
          label="A break lasts"
          fieldKey={fieldKey('day', '', 'break')}
          kind={minutesKind}
          value={timetable.breakMin}
          onCommit={(value) => value !== null && set({ breakMin: value })}
        />
        <Readout label="All together" number={`${plan.totalMin}`} unit="min" />
        <Readout label="Of it playing" number={`${plan.playingMin}`} unit="min" />
        <Readout
          label="Played"
          number={`${plan.playings}`}
          unit={plan.playings === 1 ? 'time' : 'times'}
        />
        <Readout label="Ends" number={timeText(plan.endMin)} />
        {plan.conflicts.map(({ message }) => (
          <p key={message} className="flex gap-2 pt-2">
            <TriangleAlert size={15} className="text-warning mt-0.5 shrink-0" /> {message}
          </p>
        ))}
      </section>
      <section aria-labelledby="order-heading">
        <h2 id="order-heading" className="text-[17px]">
          Order
        </h2>
        <Actions />
        {plan.slots.length > 0 && (
          <table className="ledger-table w-full" aria-label="Timetable">
            <thead>
              <tr>
                <th>Time</th>
                <th>What</th>
                <th>Kind</th>
                <th className="num">Lasts</th>
                <th>Playing</th>
                <th>
                  <span className="sr-only">Actions</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {plan.slots.map(({ entry, fromMin, toMin }, index) => (
                <EntryRow
                  key={entry.id}
                  entry={entry}
                  index={index}
                  last={index === plan.slots.length - 1}
                  times={`${timeText(fromMin)}–${timeText(toMin)}`}
                />
              ))}
            </tbody>
          </table>
        )}
      </section>
    </div>
  );
}
