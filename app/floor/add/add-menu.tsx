import { isKit } from '../../../core/planning';
import { clamp } from '../../../core/units';
import { ChevronDown, Plus } from 'lucide-react';
import { Fragment, useId, useState } from 'react';
import type { MicArray, Obstacle, Session } from '../../../core/session';
import { addArray, addKitSet, addPlayer, addSpotFor } from '../../document/edits';
import { newId } from '../../document/new-id';
import { edit, sessionStore } from '../../document/session-store';
import { layUnderlay } from './lay-underlay';
import { Menu } from '../../parts/menu';
import { focusSelection } from '../../shell/focus';
import { choiceStore, select } from '../../view/choice';
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

/** One thing that can be put on the floor. */
interface Addition {
  label: string;
  run: () => void;
  keys?: string;
}

const openPicture = (pictureId: string) => document.getElementById(pictureId)?.click();
const openDialog = (ensembleDialog: 'template' | 'section') =>
  toolStore.setState({ ensembleDialog });

/** What is chosen, where it is a player: a microphone for it comes first. */
function forChosen(session: Session): Addition[] {
  const { selection } = choiceStore.getState();
  const source = session.sources.find(
    ({ id }) => selection?.kind === 'source' && id === selection.id,
  );
  if (!source) return [];
  return [
    { label: `Spot for ${source.name}`, run: () => addSpotFor(source) },
    ...(isKit(source)
      ? [{ label: `Set for ${source.name}: overheads, drums`, run: () => addKitSet(source) }]
      : []),
  ];
}

/** Everything that can be put on the floor, by heading; the picture of a floor plan apart. */
export function additionsTo(session: Session): { heading: string; items: Addition[] }[] {
  return [
    {
      heading: 'Players',
      items: [
        { label: 'Player', run: () => addPlayer(session), keys: 'A' },
        { label: 'Ensemble from a template …', run: () => openDialog('template'), keys: 'E' },
        { label: 'Section in an arc or rows …', run: () => openDialog('section') },
      ],
    },
    {
      heading: 'Microphones',
      items: [
        ...forChosen(session),
        ...arrayChoices(session).map((choice) => ({
          label: choice.name,
          run: () => addArray(choice),
        })),
      ],
    },
    {
      heading: 'Hall',
      items: [
        ...OBSTACLES.map((choice) => ({ label: choice.name, run: () => addObstacle(choice) })),
        { label: 'Seats', run: addSeats },
        { label: 'Tape point', run: addTapePoint },
      ],
    },
  ];
}

function Additions({ pictureId, close }: { pictureId: string; close: () => void }) {
  // As it is when the menu opens.
  const [session] = useState(() => sessionStore.getState().session);
  if (!session) return null;
  const item = ({ label, run, keys }: Addition) => (
    <li key={label}>
      <button
        className="flex justify-between"
        onClick={() => {
          close();
          run();
          focusSelection();
        }}
      >
        {label} {keys && <kbd className="text-muted text-[11px]">{keys}</kbd>}
      </button>
    </li>
  );
  return (
    <ul className="menu dropdown-content border-hairline bg-base-200 z-20 max-h-[70vh] w-60 flex-nowrap overflow-y-auto rounded-[3px] border p-1 text-[13px]">
      {additionsTo(session).map(({ heading, items }) => (
        <Fragment key={heading}>
          <li className="text-muted px-3 pt-2 pb-0.5 text-[12px] font-semibold">{heading}</li>
          {items.map(item)}
        </Fragment>
      ))}
      {item({ label: 'Picture of the floor plan …', run: () => openPicture(pictureId) })}
    </ul>
  );
}

/** The menu of all that can be put on the floor. */
export function AddMenu() {
  const pictureId = useId();
  return (
    <>
      <Menu
        button={
          <>
            <Plus size={15} /> Add <ChevronDown size={13} />
          </>
        }
      >
        {(close) => <Additions pictureId={pictureId} close={close} />}
      </Menu>
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
    </>
  );
}
