import { clamp } from '../../../core/units';
import { ChevronDown, Plus } from 'lucide-react';
import { useId, useRef, useState } from 'react';
import type { MicArray, Obstacle, Session } from '../../../core/session';
import { addArray, addPlayer } from '../../document/edits';
import { newId } from '../../document/new-id';
import { edit, sessionStore } from '../../document/session-store';
import { layUnderlay } from './lay-underlay';
import { select } from '../../view/choice';
import { toolStore } from '../../view/floor-tools';
import { notify } from '../../view/notices';

const single = (pattern: 'cardioid' | 'omni') => ({ kind: 'single', pattern }) as const;
const pair = (pattern: 'cardioid' | 'omni', spacingM: number, includedAngleDeg: number) =>
  ({ kind: 'pair', pattern, spacingM, includedAngleDeg }) as const;

type ArrayChoice = Partial<MicArray> & { name: string };

/** What an array of each role customarily is, to begin with. */
export function arrayChoices(session: Session): ArrayChoice[] {
  const { stage } = session.venue;
  const main = session.arrays.find(({ role }) => role === 'main');
  const [y, z] = [main?.y ?? -0.5, main?.z ?? 2.7];
  return [
    { name: 'Main pair', role: 'main', y, z },
    {
      name: 'Outriggers',
      role: 'outrigger',
      y,
      z,
      technique: pair('omni', clamp(stage.widthM * 0.7, 2, 50), 0),
      // They widen, and leave the lead to the main pair.
      mix: { faderDb: -12, mute: false, capsules: [] },
    },
    {
      name: 'Ambience pair',
      role: 'ambience',
      y: y - 6,
      z: 3,
      technique: pair('omni', 3, 0),
      aimDeg: 0,
    },
    {
      name: 'Overheads',
      role: 'overhead',
      y: stage.depthM * 0.4,
      z: 2.4,
      tiltDeg: -90,
      technique: pair('cardioid', 1, 0),
    },
    { name: 'Spot', role: 'spot', y: 1, z: 1.4, technique: single('cardioid') },
  ];
}

const OBSTACLES: readonly (Partial<Obstacle> & { name: string })[] = [
  { name: 'Column', kind: 'column', widthM: 0.5, depthM: 0.5, heightM: 5 },
  { name: 'Riser', kind: 'riser', widthM: 2, depthM: 1, heightM: 0.2 },
  { name: 'Furniture', kind: 'furniture', widthM: 1.2, depthM: 0.6, heightM: 1 },
];

function addObstacle(choice: (typeof OBSTACLES)[number]): void {
  const id = newId();
  const done = edit((draft) => {
    draft.venue.obstacles.push({
      id,
      name: `${choice.name} ${draft.venue.obstacles.length + 1}`,
      kind: choice.kind ?? 'furniture',
      x: 0,
      y: draft.venue.stage.depthM * 0.7,
      widthM: choice.widthM ?? 1,
      depthM: choice.depthM ?? 1,
      heightM: choice.heightM ?? 1,
      turnDeg: 0,
    });
  });
  if (done) select({ kind: 'obstacle', id });
}

function addSeats(): void {
  const id = newId();
  const done = edit((draft) => {
    const name = `Seats ${draft.venue.seats.length + 1}`;
    draft.venue.seats.push({
      id,
      name,
      x: 0,
      y: -3,
      columns: 12,
      rows: 6,
      pitchM: 0.55,
      rowPitchM: 0.9,
    });
  });
  if (done) select({ kind: 'seats', id });
}

function addTapePoint(): void {
  const id = newId();
  const done = edit((draft) => {
    const letter = String.fromCharCode(65 + (draft.venue.datumPoints.length % 26));
    draft.venue.datumPoints.push({ id, name: letter, x: 0, y: 0, z: 0 });
  });
  if (done) select({ kind: 'datum', id });
}

/** Everything that can be put on the floor. */
export function AddMenu({ onEnsemble }: { onEnsemble: (page: 'template' | 'section') => void }) {
  const menu = useRef<HTMLDetailsElement>(null);
  const pictureId = useId();
  /** the session as it is when the menu opens; null while it is closed */
  const [session, setSession] = useState<Session | null>(null);
  const item = (label: string, run: () => void, keys?: string) => (
    <li key={label}>
      <button
        className="flex justify-between"
        onClick={() => {
          if (menu.current) menu.current.open = false;
          run();
        }}
      >
        {label} {keys && <kbd className="text-muted text-[11px]">{keys}</kbd>}
      </button>
    </li>
  );
  const heading = (text: string) => (
    <li className="text-muted px-3 pt-2 pb-0.5 text-[12px] font-semibold">{text}</li>
  );
  return (
    <details
      ref={menu}
      className="dropdown"
      onToggle={(event) =>
        setSession(event.currentTarget.open ? sessionStore.getState().session : null)
      }
      onKeyDown={(event) => {
        if (event.key === 'Escape' && menu.current?.open) {
          menu.current.open = false;
          event.stopPropagation();
        }
      }}
      onBlur={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget) && event.relatedTarget) {
          event.currentTarget.open = false;
        }
      }}
    >
      <summary className="btn btn-sm btn-ghost" aria-expanded={session !== null}>
        <Plus size={15} /> Add <ChevronDown size={13} />
      </summary>
      {session && (
        <ul className="menu dropdown-content border-hairline bg-base-200 z-20 max-h-[70vh] w-60 flex-nowrap overflow-y-auto rounded-[3px] border p-1 text-[13px]">
          {heading('Players')}
          {item('Player', () => addPlayer(session), 'A')}
          {item('Ensemble from a template …', () => onEnsemble('template'), 'E')}
          {item('Section in an arc or rows …', () => onEnsemble('section'))}
          {heading('Microphones')}
          {arrayChoices(session).map((choice) => item(choice.name, () => addArray(choice)))}
          {heading('Hall')}
          {OBSTACLES.map((choice) => item(choice.name, () => addObstacle(choice)))}
          {item('Seats', addSeats)}
          {item('Tape point', addTapePoint)}
          {item('Picture of the floor plan …', () => document.getElementById(pictureId)?.click())}
        </ul>
      )}
      <input
        id={pictureId}
        type="file"
        accept="image/png,image/jpeg,image/svg+xml"
        aria-label="Picture of the floor plan"
        className="hidden"
        onChange={(event) => {
          const [file] = event.currentTarget.files ?? [];
          event.currentTarget.value = '';
          if (file) void layUnderlay(file).then((problem) => problem && notify(problem));
          toolStore.setState({ floorView: 'plan' });
        }}
      />
    </details>
  );
}
