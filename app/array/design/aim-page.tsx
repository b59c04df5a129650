import type { Row } from './aim-row';
import { fieldKey } from '../../view/validity';
import { useState } from 'react';
import {
  aimToLand,
  fractionPoints,
  landings,
  type Landing,
  type LandingAim,
} from '../../../core/arrays';
import { sourceEdges } from '../../../core/ensembles/extent';
import { partsOf } from '../../../core/ensembles';
import type { MicArray, Session, Source } from '../../../core/session';
import {
  angleText,
  formatNumber,
  lengthText,
  toDeg,
  wrapDeg,
  type Vec3,
  planDistance,
} from '../../../core/units';
import { ChoiceField, Readout } from '../../parts/fields';
import { FormulaLink } from '../../parts/formula-link';
import { QuantityField } from '../../parts/quantity-field';
import { percentKind } from '../../parts/quantity-kinds';
import { changeArray, changeTechnique, editSaying } from '../../document/edits';
import { newId } from '../../document/new-id';
import { choiceStore } from '../../view/choice';
import { useSession } from '../../document/use-session';
import { AimDrawing } from './aim-drawing';
import { Frets } from './frets';

const BETWEEN = '';

const FRACTIONS = {
  halves: [1 / 2],
  thirds: [1 / 3, 2 / 3],
  quarters: [1 / 4, 1 / 2, 3 / 4],
  ends: [0, 1],
  'ends and middle': [0, 1 / 2, 1],
} as const;
type FractionName = keyof typeof FRACTIONS;

const FRACTION_WORDS: readonly (readonly [number, string])[] = [
  [0, 'left end'],
  [1 / 4, '1/4'],
  [1 / 3, '1/3'],
  [1 / 2, '1/2'],
  [2 / 3, '2/3'],
  [3 / 4, '3/4'],
  [1, 'right end'],
];

function fractionWord(fraction: number): string {
  const known = FRACTION_WORDS.find(([value]) => Math.abs(value - fraction) < 1e-9);
  return known?.[1] ?? `${formatNumber(fraction * 100, 0)} %`;
}

const wideOnes = ({ sources }: Session): Source[] => sources.filter(({ widthM }) => widthM > 0);

/** Seen under less than this, an instrument is a point for the pair. */
const BROAD_DEG = 25;

/** The wide player chosen on the Floor, else the only broad one; else a line between two players. */
function firstRow(session: Session, array: MicArray): string {
  const { selection } = choiceStore.getState();
  const wide = wideOnes(session);
  const chosen = wide.find(({ id }) => selection?.kind === 'source' && id === selection.id);
  const bearing = ({ x, y }: Vec3) => toDeg(Math.atan2(x - array.x, y - array.y));
  const broad = wide.filter((source) => {
    const [a, b] = sourceEdges(source, array);
    return Math.abs(wrapDeg(bearing(b) - bearing(a))) >= BROAD_DEG;
  });
  return (chosen ?? (broad.length === 1 ? broad[0] : undefined))?.id ?? BETWEEN;
}

function rowOf(
  session: Session,
  array: MicArray,
  rowId: string,
  ends: readonly [string, string],
): Row | string {
  const source = wideOnes(session).find(({ id }) => id === rowId) ?? null;
  const named = (id: string) => session.sources.find((entry) => entry.id === id);
  const byX = [...session.sources].sort((p, q) => p.x - q.x);
  const first = named(ends[0]) ?? byX[0];
  const last = named(ends[1]) ?? byX[byX.length - 1];
  if (!first || !last) return 'There is no player yet: put them on the Floor first.';
  const [a, b]: [Vec3, Vec3] = source ? sourceEdges(source, array) : [first, last];
  if (planDistance(a, b) < 0.01) {
    return 'Both ends of the row are at one place: choose two players who stand apart.';
  }
  const cross = (a.x - array.x) * (b.y - array.y) - (a.y - array.y) * (b.x - array.x);
  const [from, to] = cross > 0 ? [b, a] : [a, b];
  const name = source ? source.name : `${first.name} to ${last.name}`;
  return { name, from, to, source };
}

function landingText({ fraction }: Landing): string {
  if (fraction === null) return 'looks away from it';
  if (fraction < 0) return 'passes the left end';
  if (fraction > 1) return 'passes the right end';
  return `${formatNumber(fraction * 100, 0)} % from the left`;
}

function LandingTable({ list }: { list: readonly Landing[] }) {
  const { units } = useSession().settings;
  return (
    <table className="ledger-table w-full" aria-label="Where the axes land">
      <thead>
        <tr>
          <th>Axis</th>
          <th>lands</th>
          <th className="num">right of centre</th>
          <th className="num">upstage</th>
        </tr>
      </thead>
      <tbody>
        {list.map((landing, i) => (
          <tr key={`${landing.label}${i}`}>
            <th scope="row">{landing.label || 'axis'}</th>
            <td>{landingText(landing)}</td>
            <td className="num">{landing.point ? lengthText(landing.point.x, units) : '—'}</td>
            <td className="num">{landing.point ? lengthText(landing.point.y, units) : '—'}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function PointTable({ row, array, fractions }: { row: Row; array: MicArray; fractions: number[] }) {
  const { units } = useSession().settings;
  return (
    <table className="ledger-table w-full" aria-label="Points on the row">
      <thead>
        <tr>
          <th>Point</th>
          <th className="num">right of centre</th>
          <th className="num">upstage</th>
          <th className="num">from the array</th>
          <th className="num">off its aim</th>
        </tr>
      </thead>
      <tbody>
        {fractionPoints(row.from, row.to, fractions).map(({ x, y, z }, i) => {
          const [dx, dy, dz] = [x - array.x, y - array.y, z - array.z];
          const off = wrapDeg(toDeg(Math.atan2(dx, dy)) - array.aimDeg);
          const fraction = fractions[i] ?? 0;
          return (
            <tr key={fraction}>
              <th scope="row">{fractionWord(fraction)}</th>
              <td className="num">{lengthText(x, units)}</td>
              <td className="num">{lengthText(y, units)}</td>
              <td className="num">{lengthText(Math.hypot(dx, dy, dz), units)}</td>
              <td className="num">
                {angleText(Math.abs(off))}
                {off < -0.05 ? ' L' : off > 0.05 ? ' R' : ''}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

const outerOf = (fractions: readonly number[]): [number, number] => [
  fractions[0] ?? 1 / 3,
  fractions[fractions.length - 1] ?? 2 / 3,
];

/** The pair turned so that its axes land on the wanted points. */
function turn(array: MicArray, aim: Extract<LandingAim, { ok: true }>): void {
  const tenth = (deg: number) => Math.round(deg * 10) / 10;
  editSaying(`${array.name} looks at the two points.`, (draft) => {
    changeArray(array.id, { aimDeg: tenth(aim.aimDeg) })(draft);
    const includedAngleDeg = tenth(aim.includedAngleDeg);
    changeTechnique(array.id, 'pair', { includedAngleDeg })(draft);
  });
}

function Wanted({
  row,
  array,
  fractions,
}: {
  row: Row;
  array: MicArray;
  fractions: [number, number];
}) {
  const { technique } = array;
  if (technique.kind !== 'pair') {
    return (
      <p className="text-muted py-2">
        Only a pair is turned here. Where the axes of {array.name} land stands beside the drawing.
      </p>
    );
  }
  const aim = aimToLand(array, technique.spacingM, row.from, row.to, fractions);
  if (!aim.ok) {
    return (
      <p role="alert" className="text-error py-2">
        {aim.message}
      </p>
    );
  }
  return (
    <>
      <Readout label="Included angle for them" number={angleText(aim.includedAngleDeg)} />
      <Readout label="Aim for them" number={angleText(aim.aimDeg)} />
      <button className="btn btn-sm btn-primary mt-2" onClick={() => turn(array, aim)}>
        Turn {array.name} so
      </button>
      <p className="text-muted pt-1 text-[12.5px]">
        A wider included angle makes the recording angle smaller and the picture wider: look at the
        image line after it. <FormulaLink to="aim-and-landing">Formula</FormulaLink>
      </p>
    </>
  );
}

function addParts(row: Row, fractions: readonly number[]): void {
  const like = row.source ?? {
    name: row.name,
    kind: '',
    group: row.name,
    levelDb: 85,
    q: 1,
    facingDeg: 180,
  };
  const parts = partsOf(like, fractionPoints(row.from, row.to, fractions), newId);
  editSaying(`${parts.length} points are on the Floor.`, (draft) => {
    draft.sources.push(...parts);
  });
}

/** Where each axis lands on a row or an instrument, and how to land on two chosen points. */
export function AimPage({ array }: { array: MicArray }) {
  const session = useSession();
  const [rowId, setRowId] = useState(() => firstRow(session, array));
  const [ends, setEnds] = useState<[string, string]>(['', '']);
  const [division, setDivision] = useState<FractionName>('thirds');
  const [wanted, setWanted] = useState<[number, number]>([1 / 3, 2 / 3]);
  const row = rowOf(session, array, rowId, ends);
  const players = session.sources.map(({ id, name }) => ({ value: id, label: name }));
  const fractions = [...FRACTIONS[division]];
  const end = (index: 0 | 1, label: string) => (
    <ChoiceField
      label={label}
      value={ends[index]}
      options={[
        { value: '', label: index === 0 ? 'the leftmost player' : 'the rightmost player' },
        ...players,
      ]}
      onChange={(id) => setEnds(index === 0 ? [id, ends[1]] : [ends[0], id])}
    />
  );
  const point = (index: 0 | 1, label: string) => (
    <QuantityField
      label={label}
      fieldKey={fieldKey('aim', '', `${index}`)}
      kind={percentKind}
      value={Math.round(wanted[index] * 1000) / 10}
      onCommit={(value) =>
        value !== null &&
        setWanted(index === 0 ? [value / 100, wanted[1]] : [wanted[0], value / 100])
      }
    />
  );
  return (
    <section aria-label="Aim" className="flex flex-wrap gap-x-6 gap-y-4">
      <div className="w-64">
        <ChoiceField
          label="Aimed at"
          value={typeof row === 'object' && row.source ? row.source.id : BETWEEN}
          options={[
            { value: BETWEEN, label: 'a row of players' },
            ...wideOnes(session).map(({ id, name }) => ({ value: id, label: name })),
          ]}
          onChange={setRowId}
        />
        {(typeof row === 'string' || !row.source) && (
          <>
            {end(0, 'From')}
            {end(1, 'To')}
          </>
        )}
        <h2 className="pt-4 text-[14px]">Land on two points</h2>
        {point(0, 'Left axis, from the left')}
        {point(1, 'Right axis, from the left')}
        {typeof row === 'object' && <Wanted row={row} array={array} fractions={wanted} />}
        <h2 className="pt-4 text-[14px]">Points along it</h2>
        <ChoiceField
          label="Divide into"
          value={division}
          options={(Object.keys(FRACTIONS) as FractionName[]).map((value) => ({
            value,
            label: value,
          }))}
          onChange={setDivision}
        />
        {typeof row === 'object' && (
          <div className="flex flex-wrap gap-1 pt-2">
            <button className="btn btn-sm" onClick={() => setWanted(outerOf(fractions))}>
              Land the axes on the outer two
            </button>
            <button className="btn btn-sm" onClick={() => addParts(row, fractions)}>
              Put them on the Floor as sources
            </button>
          </div>
        )}
        <Frets
          row={typeof row === 'object' ? row : null}
          lands={typeof row === 'object' ? landings(array, row.from, row.to) : []}
          wanted={wanted}
          onWant={setWanted}
        />
      </div>
      <div className="min-w-[340px] flex-1">
        {typeof row === 'string' ? (
          <p role="alert">{row}</p>
        ) : (
          <>
            <AimDrawing
              array={array}
              row={row}
              fractions={fractions}
              wanted={wanted}
              onWant={setWanted}
            />
            <LandingTable list={landings(array, row.from, row.to)} />
            <div className="pt-3">
              <PointTable row={row} array={array} fractions={fractions} />
            </div>
          </>
        )}
      </div>
    </section>
  );
}
