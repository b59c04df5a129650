import { useId, useMemo, useState } from 'react';
import { instrumentAt, markOf, tapesText } from '../../core/recall';
import { whereTapesMeet } from '../../core/rig';
import { surfacesOf } from '../../core/ensembles';
import { lengthText } from '../../core/units';
import type { MicArray, Session } from '../../core/session';
import { optionById, optionsOf } from '../../core/soundcheck';
import { leadingArray } from '../../core/session';
import { useSession } from '../document/use-session';
import { planOfVersion } from '../keeping/versions';
import { QuantityField } from '../parts/quantity-field';
import { lengthKind } from '../parts/quantity-kinds';
import { fieldKey } from '../view/validity';
import { notify, notifyFailure } from '../view/notices';
import { enterMark, originsOf, picturesOf, tagsOf, takeChoices, type Origin } from './marks';

interface Spot {
  x: number;
  y: number;
  z: number;
}

/** Sides of the line between two tape points, and where a point on each would be: as sheets call them. */
function sidesOf(first: Plan2, second: Plan2): { name: string; near: Plan2 }[] {
  const [x, y] = [(first.x + second.x) / 2, (first.y + second.y) / 2];
  const along = Math.abs(second.x - first.x) >= Math.abs(second.y - first.y);
  const FAR_M = 1e4;
  return along
    ? [
        { name: 'downstage', near: { x, y: y - FAR_M } },
        { name: 'upstage', near: { x, y: y + FAR_M } },
      ]
    : [
        { name: 'house left', near: { x: x - FAR_M, y } },
        { name: 'house right', near: { x: x + FAR_M, y } },
      ];
}

interface Plan2 {
  x: number;
  y: number;
}

interface ByTapesProps {
  onSpot: (spot: Spot | null) => void;
}

/** A place by two tapes and a height, or a height above a surface of an instrument. */
function ByTapes({ onSpot }: ByTapesProps) {
  const { venue, settings, sources } = useSession();
  const [first, second] = venue.datumPoints;
  const [tapes, setTapes] = useState<readonly [number | null, number | null]>([null, null]);
  const [side, setSide] = useState(0);
  const [height, setHeight] = useState<number | null>(null);
  const [from, setFrom] = useState('');
  const surfaces = useMemo(
    () =>
      sources.flatMap((source) =>
        surfacesOf(source).map(({ name, heightM }) => ({
          id: `${source.id} ${name}`,
          name: `${name} of ${source.name}`,
          heightM,
        })),
      ),
    [sources],
  );
  if (!first || !second || Math.hypot(first.x - second.x, first.y - second.y) <= 0.01) {
    return (
      <p className="text-muted">
        Two tape points apart from each other are needed: place them under Brief, The hall.
      </p>
    );
  }
  const sides = sidesOf(first, second);
  const meet = ([a, b]: readonly [number | null, number | null], on: number): Plan2 | null => {
    const near = sides[on]?.near;
    return a === null || b === null || !near ? null : whereTapesMeet(first, second, [a, b], near);
  };
  const tell = (
    both: readonly [number | null, number | null],
    on: number,
    up: number | null,
    above: string,
  ): void => {
    const at = meet(both, on);
    const base = surfaces.find(({ id }) => id === above)?.heightM ?? 0;
    onSpot(at && up !== null ? { ...at, z: base + up } : null);
  };
  const units = settings.units;
  const met = meet(tapes, side);
  return (
    <div className="flex flex-col">
      {[first, second].map((point, i) => (
        <QuantityField
          key={point.id}
          label={`From ${point.name}`}
          fieldKey={fieldKey('mark', 'new', `tape ${i}`)}
          kind={lengthKind('farM', units)}
          value={tapes[i] ?? null}
          optional
          onCommit={(value) => {
            const next = [i === 0 ? value : tapes[0], i === 1 ? value : tapes[1]] as const;
            setTapes(next);
            tell(next, side, height, from);
          }}
        />
      ))}
      {met === null && tapes[0] !== null && tapes[1] !== null && (
        <p role="alert" className="text-error">
          These two tapes do not meet: {first.name} and {second.name} are{' '}
          {lengthText(Math.hypot(first.x - second.x, first.y - second.y), units)} apart.
        </p>
      )}
      <label className="flex items-center justify-between gap-2 py-1">
        <span className="text-muted">Of their line</span>
        <select
          className="select select-sm w-auto"
          value={side}
          onChange={(event) => {
            const next = Number(event.currentTarget.value);
            setSide(next);
            tell(tapes, next, height, from);
          }}
        >
          {sides.map(({ name }, i) => (
            <option key={name} value={i}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <label className="flex items-center justify-between gap-2 py-1">
        <span className="text-muted">Height from</span>
        <select
          className="select select-sm w-auto max-w-48"
          value={from}
          onChange={(event) => {
            setFrom(event.currentTarget.value);
            tell(tapes, side, height, event.currentTarget.value);
          }}
        >
          <option value="">the floor</option>
          {surfaces.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <QuantityField
        label="Height"
        fieldKey={fieldKey('mark', 'new', 'height')}
        kind={lengthKind('positionM', units)}
        value={height}
        optional
        onCommit={(value) => {
          setHeight(value);
          tell(tapes, side, value, from);
        }}
      />
    </div>
  );
}

/** Where an origin is: its array and the plan around it. */
async function standingAt(
  session: Session,
  origin: Origin,
  spot: Spot | null,
): Promise<{ at: Spot; array: MicArray | null; plan: Session } | string> {
  if (origin.made === 'hand') {
    return spot
      ? { at: spot, array: null, plan: session }
      : 'Type both tapes and the height first.';
  }
  if (origin.option !== undefined) {
    const option = optionById(optionsOf(session), origin.option);
    const plan = option && (await planOfVersion(session, option.entry.version));
    const array = plan && leadingArray(plan);
    if (!plan || !array) return 'The version of that option is not in this browser any more.';
    return { at: array, array, plan };
  }
  const { array, plan } = origin;
  return array && plan ? { at: array, array, plan } : 'Nothing stands there.';
}

/** What is said of a mark beside its place. */
interface SaidOfMark {
  name: string;
  by: string;
  tags: string;
  text: string;
  take: string;
  rating: string;
}
const NOTHING_SAID: SaidOfMark = { name: '', by: '', tags: '', text: '', take: '', rating: '' };

interface SaidProps {
  said: SaidOfMark;
  say: (change: Partial<SaidOfMark>) => void;
  /** what it is called where nobody says */
  usual: string;
  pictures: readonly File[];
  setPictures: (pictures: readonly File[]) => void;
}

function SaidFields({ said, say, usual, pictures, setPictures }: SaidProps) {
  const session = useSession();
  const takes = takeChoices(session);
  const files = useId();
  const line = (label: string, field: 'name' | 'by' | 'tags', most: number, hint: string) => (
    <label className="flex flex-col">
      <span className="text-muted">{label}</span>
      <input
        className="input input-sm w-full"
        maxLength={most}
        placeholder={hint}
        value={said[field]}
        onChange={(event) => say({ [field]: event.currentTarget.value })}
      />
    </label>
  );
  return (
    <>
      {line('Called', 'name', 200, usual)}
      <label className="flex flex-col">
        <span className="text-muted">How good it was</span>
        <select
          className="select select-sm w-full"
          value={said.rating}
          onChange={(event) => say({ rating: event.currentTarget.value })}
        >
          <option value="">not rated</option>
          {[5, 4, 3, 2, 1, 0].map((stars) => (
            <option key={stars} value={stars}>
              {stars} of 5
            </option>
          ))}
        </select>
      </label>
      {takes.length > 0 && (
        <label className="flex flex-col">
          <span className="text-muted">Proved by</span>
          <select
            className="select select-sm w-full"
            value={said.take}
            onChange={(event) => say({ take: event.currentTarget.value })}
          >
            <option value="">no take</option>
            {takes.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </label>
      )}
      {line('By', 'by', 200, 'who says so')}
      {line('Tags', 'tags', 600, 'warm, full hall')}
      <label className="flex flex-col">
        <span className="text-muted">Said of it</span>
        <textarea
          className="textarea textarea-sm w-full text-[13.5px]"
          rows={2}
          maxLength={5000}
          value={said.text}
          onChange={(event) => say({ text: event.currentTarget.value })}
        />
      </label>
      <div className="flex flex-col">
        <label htmlFor={files} className="text-muted">
          Photographs
        </label>
        <input
          id={files}
          key={pictures.length === 0 ? 'none' : 'some'}
          type="file"
          accept="image/*"
          multiple
          className="file-input file-input-sm w-full"
          onChange={(event) => setPictures([...(event.currentTarget.files ?? [])])}
        />
      </div>
    </>
  );
}

/** A mark is made: of what, for which instrument, how good. */
export function NewMark() {
  const session = useSession();
  const origins = useMemo(() => originsOf(session), [session]);
  const [chosen, setChosen] = useState('');
  const origin = origins.find(({ id }) => id === chosen) ?? origins[0];
  const [spot, setSpot] = useState<Spot | null>(null);
  const [own, setOwn] = useState<string | null>(null);
  const [said, setSaid] = useState(NOTHING_SAID);
  const [pictures, setPictures] = useState<readonly File[]>([]);
  const at = origin?.made === 'hand' ? spot : (origin?.array ?? null);
  const guessed = at ? instrumentAt(session, at, origin?.array ?? null) : null;
  const sourceId = own ?? guessed?.id ?? '';
  const make = async (): Promise<void> => {
    if (!origin) return;
    const standing = await standingAt(session, origin, spot);
    if (typeof standing === 'string') return notify(standing);
    const { plan, array } = standing;
    const source = plan.sources.find(({ id }) => id === sourceId) ?? null;
    const id = enterMark(
      markOf(plan, {
        at: { x: standing.at.x, y: standing.at.y, z: standing.at.z },
        array,
        // An option’s instrument is that which stands near its own array.
        ...(origin.option !== undefined && own === null ? {} : { source }),
        made: origin.made,
        name: said.name.trim() || array?.name || 'Mark',
        by: said.by.trim(),
        rating: said.rating === '' ? null : Number(said.rating),
        text: said.text,
        take: said.take,
        tags: tagsOf(said.tags),
      }),
      await picturesOf(pictures),
    );
    if (id === '') return;
    setSaid({ ...NOTHING_SAID, by: said.by, tags: said.tags });
    setPictures([]);
  };
  return (
    <form
      aria-label="New mark"
      className="flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void make().catch(notifyFailure);
      }}
    >
      <h2 className="text-[15px]">New mark</h2>
      <label className="flex flex-col">
        <span className="text-muted">Of</span>
        <select
          className="select select-sm w-full text-ellipsis"
          value={origin?.id ?? ''}
          onChange={(event) => {
            setChosen(event.currentTarget.value);
            setOwn(null);
          }}
        >
          {origins.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      {origin?.made === 'hand' && <ByTapes onSpot={setSpot} />}
      {at && (
        <p role="status" aria-label="Where it is" className="text-[12.5px]">
          {tapesText(session.venue, at, session.settings.units)}
        </p>
      )}
      <label className="flex flex-col">
        <span className="text-muted">For</span>
        <select
          className="select select-sm w-full text-ellipsis"
          value={sourceId}
          onChange={(event) => setOwn(event.currentTarget.value)}
        >
          <option value="">the whole, no instrument of its own</option>
          {session.sources.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <SaidFields
        said={said}
        say={(change) => setSaid({ ...said, ...change })}
        usual={origin?.array?.name ?? 'Mark'}
        pictures={pictures}
        setPictures={setPictures}
      />
      <button type="submit" className="btn btn-sm btn-primary self-start">
        Make the mark
      </button>
    </form>
  );
}
