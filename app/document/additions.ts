import { hasPieces, piecesWith } from '../../core/ensembles';
import { isKit } from '../../core/planning';
import type { MicArray, Obstacle, Session } from '../../core/session';
import { clamp } from '../../core/units';
import { choiceStore, select } from '../view/choice';
import { toolStore } from '../view/floor-tools';
import { addArray, addKitSet, addPlayer, addSpotFor } from './edits';
import { newId } from './new-id';
import { joinPieces, splitPlayer } from './pieces';
import { edit } from './session-store';

const single = (pattern: 'cardioid' | 'omni') => ({ kind: 'single', pattern }) as const;
const pair = (pattern: 'cardioid' | 'omni', spacingM: number, includedAngleDeg: number) =>
  ({ kind: 'pair', pattern, spacingM, includedAngleDeg }) as const;

type ArrayChoice = Partial<MicArray> & { name: string };

/** What an array of each role customarily is, to begin with. */
function arrayChoices(session: Session): ArrayChoice[] {
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
  { name: 'Wall', kind: 'wall', widthM: 3, depthM: 0.2, heightM: 3 },
  { name: 'Balcony', kind: 'balcony', widthM: 8, depthM: 3, heightM: 1.2, baseM: 3 },
  { name: 'Organ case', kind: 'organ case', widthM: 4, depthM: 1.5, heightM: 5 },
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
      baseM: choice.baseM ?? 0,
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
      riseM: 0,
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
export interface Addition {
  label: string;
  run: () => void;
  keys?: string;
}

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
    ...(hasPieces(source)
      ? [{ label: `Split ${source.name} into its pieces`, run: () => splitPlayer(source) }]
      : []),
    ...(source.pieceOf
      ? [
          {
            label: `Put ${source.pieceOf.name} together again`,
            run: () => joinPieces(piecesWith(source, session.sources)),
          },
        ]
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
