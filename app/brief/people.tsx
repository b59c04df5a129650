import { CheckField, TextField } from '../parts/fields';
import { edit } from '../document/session-store';
import { useSession } from '../document/use-session';

/** Who does what on the day. */
export function People() {
  const { people } = useSession().brief;
  return (
    <section aria-labelledby="people-heading">
      <h2 id="people-heading" className="pb-2 text-[17px]">
        People
      </h2>
      {people.length === 0 && <p className="text-muted pb-1">Nobody is named yet.</p>}
      {people.map(({ name, role, mustHear }, index) => (
        <div key={index} className="flex items-baseline gap-3">
          <div className="flex-1">
            <TextField
              label="Name"
              value={name}
              most={200}
              onCommit={(value) =>
                edit((draft) => {
                  const person = draft.brief.people[index];
                  if (person) person.name = value;
                })
              }
            />
          </div>
          <div className="flex-1">
            <TextField
              label="Role"
              value={role}
              most={200}
              onCommit={(value) =>
                edit((draft) => {
                  const person = draft.brief.people[index];
                  if (person) person.role = value;
                })
              }
            />
          </div>
          <CheckField
            label="must be heard"
            value={mustHear}
            onChange={(on) =>
              edit((draft) => {
                const person = draft.brief.people[index];
                if (person) person.mustHear = on;
              })
            }
          />
          <button
            className="btn btn-ghost btn-xs"
            aria-label={`Remove ${name || `person ${index + 1}`}`}
            onClick={() => edit((draft) => void draft.brief.people.splice(index, 1))}
          >
            ×
          </button>
        </div>
      ))}
      <button
        className="btn btn-sm mt-2 font-normal"
        onClick={() =>
          edit((draft) => void draft.brief.people.push({ name: '', role: '', mustHear: false }))
        }
      >
        Add a person
      </button>
    </section>
  );
}
