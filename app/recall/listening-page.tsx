import { useMemo, useRef, useState } from 'react';
import {
  bestSpotText,
  LISTENING_HEAD,
  ONE_SPOT_M,
  listeningRows,
  listeningSpots,
  markOf,
  marksOf,
  ratingText,
  tapesText,
  type ListeningSpot,
} from '../../core/recall';
import { lengthText } from '../../core/units';
import { savePng, saveSvg } from '../charts/save-picture';
import { recallReport } from '../../paper/recall-report';
import { strike } from '../document/journals';
import { exportReport } from '../keeping/exports';
import { useSession } from '../document/use-session';
import { downloadJson, downloadTable } from '../keeping/tables';
import { QuantityField } from '../parts/quantity-field';
import { lengthKind } from '../parts/quantity-kinds';
import { notifyFailure } from '../view/notices';
import { fieldKey } from '../view/validity';
import { HallPlan } from './hall-plan';
import { enterMark, tagsOf } from './marks';

interface At {
  x: number;
  y: number;
}

const EAR_M = 1.2;

interface FormProps {
  at: At;
  setAt: (at: At) => void;
  spots: readonly ListeningSpot[];
}

/** Somebody rates a place: by a click on the plan, or in figures. */
function Rate({ at, setAt, spots }: FormProps) {
  const session = useSession();
  const { units } = session.settings;
  const [by, setBy] = useState('');
  const [name, setName] = useState('');
  const [rating, setRating] = useState('');
  const [tags, setTags] = useState('');
  const place = lengthKind('positionM', units);
  const rate = (): void => {
    const said = markOf(session, {
      at: { ...at, z: EAR_M },
      source: null,
      made: 'hand',
      use: 'ears',
      name: name.trim(),
      by: by.trim(),
      rating: rating === '' ? null : Number(rating),
      tags: tagsOf(tags),
    });
    if (enterMark(said) === '') return;
    setRating('');
    setTags('');
  };
  return (
    <form
      aria-label="Rate a spot"
      className="flex flex-col gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        rate();
      }}
    >
      <h2 className="text-[15px]">Rate a spot</h2>
      <p className="text-muted pb-1 text-[12.5px]">
        Click on the plan where you sit, or type it. Do not look at what others said before you have
        said yours.
      </p>
      {spots.length > 0 && (
        <label className="flex items-center justify-between gap-2">
          <span className="text-muted">Spot</span>
          <select
            className="select select-sm w-auto max-w-44"
            value=""
            onChange={(event) => {
              const spot = spots[Number(event.currentTarget.value)];
              if (!spot) return;
              setAt({ x: spot.x, y: spot.y });
              setName(spot.name);
            }}
          >
            <option value="">one that is there …</option>
            {spots.map((spot, i) => (
              <option key={`${i} ${spot.name}`} value={i}>
                {spot.name}
              </option>
            ))}
          </select>
        </label>
      )}
      {(['x', 'y'] as const).map((axis) => (
        <QuantityField
          key={axis}
          label={axis === 'x' ? 'Right of datum' : 'Upstage'}
          fieldKey={fieldKey('spot', 'new', axis)}
          kind={place}
          value={at[axis]}
          onCommit={(value) => value !== null && setAt({ ...at, [axis]: value })}
        />
      ))}
      {(
        [
          ['Called', name, setName, 200, 'row 5, middle'],
          ['By', by, setBy, 200, 'who listens'],
          ['Tags', tags, setTags, 600, 'bass full, violins far'],
        ] as const
      ).map(([label, value, set, most, hint]) => (
        <label key={label} className="flex flex-col">
          <span className="text-muted">{label}</span>
          <input
            className="input input-sm w-full"
            maxLength={most}
            placeholder={hint}
            value={value}
            onChange={(event) => set(event.currentTarget.value)}
          />
        </label>
      ))}
      <label className="flex flex-col">
        <span className="text-muted">How good it is</span>
        <select
          className="select select-sm w-full"
          value={rating}
          onChange={(event) => setRating(event.currentTarget.value)}
        >
          <option value="">choose</option>
          {[5, 4, 3, 2, 1, 0].map((stars) => (
            <option key={stars} value={stars}>
              {stars} of 5
            </option>
          ))}
        </select>
      </label>
      <button
        type="submit"
        className="btn btn-sm btn-primary mt-1 self-start"
        disabled={rating === ''}
        title={rating === '' ? 'Choose how good it is first' : undefined}
      >
        Enter it
      </button>
    </form>
  );
}

const saidOf = ({ listeners }: ListeningSpot): string =>
  listeners
    .map(
      ({ listener, rating, count }) =>
        `${listener} ${Number(rating.toFixed(1))}${count > 1 ? ` (${count} times)` : ''}`,
    )
    .join(', ');

/** Every spot with what was said of it. */
function SpotTable({ spots }: { spots: readonly ListeningSpot[] }) {
  const { venue, settings } = useSession();
  return (
    <table className="ledger-table w-full" aria-label="Spots">
      <thead>
        <tr>
          {['Spot', 'Where', 'Together', 'Who said what', 'Tags', ''].map((head) => (
            <th key={head}>{head === '' ? <span className="sr-only">Strike</span> : head}</th>
          ))}
        </tr>
      </thead>
      <tbody>
        {spots.map((spot, i) => (
          <tr key={`${i} ${spot.name}`}>
            <th scope="row">{spot.name}</th>
            <td>
              {tapesText(venue, spot, settings.units).replace(
                `, ${lengthText(spot.z, settings.units)} up`,
                '',
              )}
            </td>
            <td>{spot.apart ? 'they do not agree' : ratingText(spot.rating)}</td>
            <td>{saidOf(spot) || '—'}</td>
            <td>{spot.tags.join(', ')}</td>
            <td>
              <button
                className="btn btn-ghost btn-xs"
                onClick={() => spot.marks.forEach(({ mark }) => strike('marks', mark.id))}
              >
                Strike<span className="sr-only"> {spot.name}</span>
              </button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Where one listens best: what every listener said of each place, averaged where they agree. */
export function ListeningPage() {
  const session = useSession();
  const spots = useMemo(() => listeningSpots(marksOf(session)), [session]);
  const [at, setAt] = useState<At>({ x: 0, y: -3 });
  const drawing = useRef<HTMLDivElement>(null);
  const { venue } = session;
  const top = Math.max(...spots.map(({ rating }) => rating ?? -1));
  const name = `${session.title} listening spots`;
  const svg = (): SVGSVGElement | null => drawing.current?.querySelector('svg') ?? null;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_17rem] gap-x-8 max-lg:grid-cols-1">
      <section aria-label="Listening spots" className="min-w-0">
        <p role="status" aria-label="Best spot" className="pb-2 text-[17px]">
          {bestSpotText(spots)}
        </p>
        <div ref={drawing}>
          <HallPlan
            venue={venue}
            players={session.sources}
            spots={[
              ...spots.map((spot, i) => ({
                key: `${i}`,
                x: spot.x,
                y: spot.y,
                use: 'ears' as const,
                label: `${spot.name}: ${saidOf(spot)}`,
                text: spot.apart
                  ? `${Math.min(...spot.listeners.map(({ rating }) => rating))} to ${Math.max(...spot.listeners.map(({ rating }) => rating))}`
                  : spot.rating === null
                    ? ''
                    : `${Number(spot.rating.toFixed(1))}`,
                strong: spot.rating !== null && spot.rating === top,
                weak: spot.apart,
              })),
              ...(spots.some((spot) => Math.hypot(spot.x - at.x, spot.y - at.y) < ONE_SPOT_M)
                ? []
                : [
                    {
                      key: 'new',
                      ...at,
                      use: 'next' as const,
                      label: 'The spot that is rated next',
                    },
                  ]),
            ]}
            label="Where it was listened from, and how good it was"
            room={{ wide: 760, high: 400 }}
            onPlace={(place) =>
              setAt({ x: Math.round(place.x * 100) / 100, y: Math.round(place.y * 100) / 100 })
            }
          />
        </div>
        {spots.length > 0 && (
          <>
            <div className="no-print flex flex-wrap gap-2 py-2">
              <button
                className="btn btn-xs"
                onClick={() => void downloadTable(name, LISTENING_HEAD, listeningRows(spots))}
              >
                CSV
              </button>
              <button
                className="btn btn-xs"
                onClick={() => downloadJson(name, LISTENING_HEAD, listeningRows(spots))}
              >
                JSON
              </button>
              <button
                className="btn btn-xs"
                onClick={() => {
                  const drawn = svg();
                  if (drawn) saveSvg(name, drawn);
                }}
              >
                SVG
              </button>
              <button
                className="btn btn-xs"
                onClick={() => {
                  const drawn = svg();
                  if (drawn) void savePng(name, drawn).catch(notifyFailure);
                }}
              >
                PNG
              </button>
              <button
                className="btn btn-xs"
                onClick={() =>
                  void exportReport(
                    recallReport(session, new Date().toISOString()),
                    'a4',
                    'listening spots',
                  ).catch(notifyFailure)
                }
              >
                PDF
              </button>
              <button className="btn btn-xs" onClick={() => print()}>
                Print
              </button>
            </div>
            <SpotTable spots={spots} />
          </>
        )}
      </section>
      <aside className="no-print max-lg:pt-4">
        <Rate at={at} setAt={setAt} spots={spots} />
      </aside>
    </div>
  );
}
