import { descending } from 'd3-array';
import { Link } from 'react-router';
import { coherentResponse } from '../../core/acoustics';
import {
  arrayFigures,
  arrivalsOf,
  contextOf,
  echoLimit,
  heardLevel,
  prepareMix,
  reflectionsAtArray,
  roomOf,
  surfaceWords,
  type Evidence,
  type Finding,
  type HeardReflection,
  type SourceFigures,
} from '../../core/analysis';
import { MODELS, monoWaves, nearArrivals, prepareArray } from '../../core/localisation';
import { leadingArray, type MicArray, type Source } from '../../core/session';
import { formatNumber, formatSigned, lengthText, shiftText } from '../../core/units';
import { ArrivalLadder } from './arrival-ladder';
import { MonoBars } from './mono-bars';
import { ChannelEvidence, SpillEvidence, StandEvidence } from './more-evidence';
import { FaceEvidence, ShadowEvidence } from './hall-evidence';
import { ReflectionPlan } from './reflection-plan';
import { useSession } from '../document/use-session';

/** The models that speak of both cues, each by itself. */
const VOICES = MODELS.filter(({ id, levelOnly }) => !levelOnly && id !== 'consensus');

const PAGES = {
  arrivals: ['../checks?page=arrivals', 'the arrivals'],
  spill: ['../checks?page=spill', 'the spill matrix'],
  stands: ['../checks?page=stands', 'the stands and distances'],
  channels: ['../rig?page=channels', 'the channel list'],
  kit: ['../brief?page=kit', 'the kit'],
  hall: ['../brief?page=hall', 'the hall'],
  pair: ['../array?page=pair-geometry', 'the pair and its figures'],
  floor: ['../floor', 'the floor'],
  shadow: ['../floor', 'the floor'],
  faces: ['../brief?page=hall', 'the hall'],
} as const;
const isPage = (kind: Evidence): kind is keyof typeof PAGES & Evidence => kind in PAGES;

/** What mono leaves of a player, of one array or of the whole mix. */
function MonoChart({ array, source }: { array: MicArray | null; source: Source }) {
  const session = useSession();
  const ready = array ? prepareArray(array, array.mix.capsules) : prepareMix(session);
  const arrivals = ready && nearArrivals(ready, source, contextOf(session).speed);
  if (!ready || !arrivals) return null;
  return <MonoBars name={source.name} bands={coherentResponse(monoWaves(ready, arrivals))} />;
}

/** When a player arrives at every microphone. */
function Ladder({ source }: { source: Source }) {
  const session = useSession();
  const { arrivals } = arrivalsOf(session, source);
  return (
    <figure className="pb-2">
      <figcaption>{source.name} at every microphone, ms</figcaption>
      <ArrivalLadder arrivals={arrivals} limitMs={echoLimit(source).ms} />
    </figure>
  );
}

/** What comes later than this is shown only where it is what is spoken of, ms. */
const SHOWN_MS = 40;

interface ReflectionProps {
  array: MicArray;
  source: Source;
  /** surfaces of which the finding speaks */
  over: readonly string[];
}

function ReflectionTable({ array, source, over }: ReflectionProps) {
  const session = useSession();
  const isNamed = ({ surfaces: [first, second] }: HeardReflection): boolean =>
    first !== undefined && second === undefined && over.includes(first);
  const all = reflectionsAtArray(session, array, source);
  const named = all.filter(isNamed);
  const list = [
    ...named,
    ...all.filter((one) => !isNamed(one) && one.delayMs < SHOWN_MS).slice(0, 6),
  ].slice(0, Math.max(6, named.length));
  const room = roomOf(session);
  const [strongest] = [...list].sort((a, b) => b.levelDb - a.levelDb);
  const drawn = named.length > 0 ? named : strongest ? [strongest] : [];
  return (
    <>
      {room && drawn.length > 0 && (
        <ReflectionPlan room={room} array={array} source={source} reflections={drawn} />
      )}
      <table className="ledger-table" aria-label={`Reflections of ${source.name}`}>
        <thead>
          <tr>
            <th>{source.name} over</th>
            <th>at</th>
            <th className="num">level</th>
            <th className="num">delay</th>
            <th className="num">first notch</th>
          </tr>
        </thead>
        <tbody>
          {list.map(({ surfaces, capsule, levelDb, delayMs, firstNotchHz, atMost }) => (
            <tr key={surfaces.join()}>
              <td>{surfaces.map((surface) => surfaceWords(room, surface)).join(', then ')}</td>
              <td>{capsule}</td>
              <td className="num">
                {atMost ? '≤ ' : ''}
                {formatSigned(levelDb, 1)} dB
              </td>
              <td className="num">{formatNumber(delayMs, 1)} ms</td>
              <td className="num">{formatNumber(firstNotchHz, 0)} Hz</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

interface TableProps {
  sources: readonly Source[];
  bySource: ReadonlyMap<string, SourceFigures>;
}

function ImageTable({ sources, bySource }: TableProps) {
  return (
    <table className="ledger-table" aria-label="Images behind the finding">
      <thead>
        <tr>
          <th>Player</th>
          <th className="num">angle</th>
          <th className="num">level</th>
          <th className="num">time</th>
          {VOICES.map(({ id, name }) => (
            <th key={id} className="num">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {sources.map((source) => {
          const of = bySource.get(source.id);
          return (
            <tr key={source.id}>
              <td>{source.name}</td>
              <td className="num">{formatSigned(of?.azimuthDeg, 1)}°</td>
              <td className="num">{formatSigned(of?.icldDb, 1)} dB</td>
              <td className="num">{formatSigned(of?.ictdMs, 2)} ms</td>
              {VOICES.map(({ id }) => (
                <td key={id} className="num">
                  {of?.antiphase ? 'antiphase' : shiftText(of?.image?.[id]?.shift)}
                </td>
              ))}
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** The direct level as a real microphone leaves it, and whether that is a null. */
function levelText(of: SourceFigures | undefined, source: Source): string {
  const heard = of ? heardLevel(of, source) : null;
  if (!heard) return '—';
  return `${formatNumber(heard.levelDb, 1)} dB${heard.atNull ? ', in a null' : ''}`;
}

function LevelTable({ sources, bySource }: TableProps) {
  const { units } = useSession().settings;
  return (
    <table className="ledger-table" aria-label="Levels behind the finding">
      <thead>
        <tr>
          <th>Player</th>
          <th className="num">at 1 m</th>
          <th className="num">distance</th>
          <th className="num">at the array</th>
          <th className="num">direct to room</th>
        </tr>
      </thead>
      <tbody>
        {sources.map((source) => {
          const of = bySource.get(source.id);
          return (
            <tr key={source.id}>
              <td>{source.name}</td>
              <td className="num">{formatNumber(source.levelDb, 1)} dB</td>
              <td className="num">{lengthText(of?.distanceM, units)}</td>
              <td className="num">{levelText(of, source)}</td>
              <td className="num">{formatSigned(of?.directToReverberantDb, 1)} dB</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** The figures of the array that a finding is about, whichever is looked at elsewhere. */
function Behind(props: { kind: 'images' | 'levels'; array: MicArray; sources: readonly Source[] }) {
  const { kind, array, sources } = props;
  const session = useSession();
  const { sources: figures } = arrayFigures(array, session.sources, contextOf(session));
  const bySource = new Map(figures.map((of) => [of.id, of]));
  const Table = kind === 'images' ? ImageTable : LevelTable;
  return <Table sources={sources} bySource={bySource} />;
}

/** Players of a finding, those whom a level in it names as the worst first. */
function worstFirst(finding: Finding, named: readonly Source[]): Source[] {
  const levelOf = ({ id }: Source): number => {
    const own = finding.members.find(({ sourceIds }) => sourceIds.includes(id));
    const of = own?.figures;
    return of?.['levelDb'] ?? of?.['sumDb'] ?? of?.['meanLossDb'] ?? -Infinity;
  };
  return [...named].sort((a, b) => descending(levelOf(a), levelOf(b)));
}

/** The table or chart that a finding was judged by. */
export function FindingEvidence({ finding }: { finding: Finding }) {
  const session = useSession();
  const kind = finding.evidence;
  const arrayId = finding.arrayId ?? (finding.arrayIds.length === 1 ? finding.arrayIds[0] : null);
  const array = session.arrays.find(({ id }) => id === arrayId) ?? null;
  const shown = array ?? leadingArray(session);
  if (!kind || !shown) return null;
  const { arrayIds } = finding;
  const named = session.sources.filter(({ id }) => finding.sourceIds.includes(id));
  const players = named.length > 0 ? named : session.sources;
  return (
    <div className="pt-2 text-[12.5px]" role="group" aria-label="What it was judged by">
      <h3 className="text-muted pb-1">What it was judged by</h3>
      {kind === 'mono' &&
        players
          .slice(0, 4)
          .map((source) => <MonoChart key={source.id} array={array} source={source} />)}
      {kind === 'reflections' &&
        worstFirst(finding, players)
          .slice(0, 3)
          .map((source) => (
            <ReflectionTable
              key={source.id}
              array={shown}
              source={source}
              over={finding.surfaces}
            />
          ))}
      {(kind === 'images' || kind === 'levels') && (
        <Behind kind={kind} array={shown} sources={players} />
      )}
      {kind === 'arrivals' &&
        players.slice(0, 2).map((source) => <Ladder key={source.id} source={source} />)}
      {kind === 'shadow' && <ShadowEvidence array={shown} players={worstFirst(finding, players)} />}
      {kind === 'faces' && <FaceEvidence finding={finding} />}
      {kind === 'spill' && <SpillEvidence arrayIds={arrayIds} players={named} />}
      {kind === 'stands' && <StandEvidence arrayIds={arrayIds} />}
      {kind === 'channels' && <ChannelEvidence arrayIds={arrayIds} />}
      {isPage(kind) && (
        <Link className="underline underline-offset-2" to={PAGES[kind][0]}>
          Go to {PAGES[kind][1]}
        </Link>
      )}
    </div>
  );
}
