import { DateField } from '../parts/date-fields';
import { TextField } from '../parts/fields';
import { Offered } from '../parts/offered';
import { edit } from '../document/session-store';
import { useSession } from '../document/use-session';
import { Counts } from './counts';
import { OwnLengths } from './own-lengths';
import { People } from './people';

/** Title, date, place, people and notes. */
export function JobPage() {
  const { title, brief, venue } = useSession();
  return (
    <div className="grid max-w-5xl grid-cols-1 gap-x-10 gap-y-6 md:grid-cols-2">
      <section aria-labelledby="job-heading">
        <h2 id="job-heading" className="pb-2 text-[17px]">
          The job
        </h2>
        <TextField
          label="Title"
          value={title}
          most={200}
          required
          onCommit={(value) => edit((d) => void (d.title = value))}
        />
        <DateField
          label="Date"
          value={brief.date}
          onCommit={(value) => edit((d) => void (d.brief.date = value))}
        />
        <TextField
          label="Venue"
          value={venue.name}
          most={200}
          onCommit={(value) => edit((d) => void (d.venue.name = value))}
        />
        <TextField
          label="Programme"
          value={brief.programme}
          most={2000}
          multiline
          onCommit={(value) => edit((d) => void (d.brief.programme = value))}
        />
        <TextField
          label="Notes"
          value={brief.notes}
          most={20000}
          multiline
          onCommit={(value) => edit((d) => void (d.brief.notes = value))}
        />
        <div className="pt-4">
          <Offered />
        </div>
      </section>
      <div>
        <People />
        <Counts />
        <OwnLengths />
      </div>
    </div>
  );
}
