import { capitalised, formatSigned } from '../../core/units';
import { Headphones, Info, Pause, Play } from 'lucide-react';
import { memo, useEffect, useRef, type PointerEvent } from 'react';
import { useStore } from 'zustand';
import { setHearing, toggleHearing, togglePlay, toggleSide, withEngine } from '../audio/actions';
import {
  isRecording,
  listeningStore,
  LOUD_DB,
  ofCandidate,
  onHeard,
  roomAlone,
} from '../audio/listening';
import { Menu } from '../parts/menu';
import { useSize } from '../parts/use-size';
import { panelStore } from '../view/panels';
import { FadersMenu, WhichArrays, Who } from './who';

const SAG = 7;
/** A shorter pull on the bow goes to a place; a longer one makes a range. */
const LEAST_RANGE = 0.03;

/** Height of the bow at a share of its length. */
const bowAt = (share: number): number => 3 + SAG * 4 * share * (1 - share);

/** Time as a thin bow under the stave: where the phrase is, and a place to go to. */
function Bow() {
  const [box, { width }] = useSize<HTMLDivElement>();
  const head = useRef<SVGCircleElement>(null);
  const played = useRef<SVGPathElement>(null);
  const lengthFrames = useStore(listeningStore, (state) => state.lengthFrames);
  const rateHz = useStore(listeningStore, (state) => state.rateHz);
  const position = useStore(listeningStore, (state) => state.position);
  const active = useStore(listeningStore, (state) => state.state !== 'silent');
  const range = useStore(listeningStore, (state) => state.range);
  const dragFrom = useRef<number | null>(null);
  const blind = useStore(panelStore, (state) => state.blind);
  const length = Math.max(20, width - 12);
  useEffect(
    () =>
      onHeard((heard) => {
        const share = heard ? heard.levels.position / lengthFrames : 0;
        head.current?.setAttribute('cx', `${6 + share * length}`);
        head.current?.setAttribute('cy', `${bowAt(share)}`);
        played.current?.style.setProperty('stroke-dashoffset', `${1 - share}`);
      }),
    [lengthFrames, length],
  );
  const shareAt = (event: PointerEvent<SVGSVGElement>): number => {
    const { left } = event.currentTarget.getBoundingClientRect();
    return Math.min(1, Math.max(0, (event.clientX - left - 6) / length));
  };
  const bow = `M6 3 Q${6 + length / 2} ${3 + 2 * SAG} ${6 + length} 3`;
  const seconds = position / rateHz;
  return (
    // Who knows in which order they played would know who it is.
    <div ref={box} className={`min-w-16 flex-1 ${blind ? 'invisible' : ''}`}>
      <input
        type="range"
        className="sr-only"
        aria-label="Place in the phrase"
        aria-valuetext={`${seconds.toFixed(1)} s of ${(lengthFrames / rateHz).toFixed(1)} s`}
        min={0}
        max={1000}
        disabled={!active}
        value={Math.round((1000 * position) / lengthFrames)}
        onChange={(event) => {
          const share = Number(event.currentTarget.value) / 1000;
          void withEngine((engine) => engine.seek(share));
        }}
        onKeyDown={(event) => {
          const here = position / lengthFrames;
          const [from, to] = range ?? [0, 1];
          const next =
            event.key === '['
              ? ([Math.min(here, to), to] as const)
              : event.key === ']'
                ? ([from, Math.max(here, from)] as const)
                : null;
          if (!next && !(event.key === 'Escape' && range)) return;
          event.preventDefault();
          event.stopPropagation();
          void withEngine((engine) => engine.setRange(next));
        }}
      />
      <svg
        width={width}
        height={16}
        aria-hidden="true"
        className={`touch-none ${active ? 'cursor-pointer' : ''}`}
        onPointerDown={(event) => {
          if (!active) return;
          const share = shareAt(event);
          event.currentTarget.setPointerCapture(event.pointerId);
          dragFrom.current = share;
        }}
        onPointerMove={(event) => {
          const from = dragFrom.current;
          const to = shareAt(event);
          if (from === null || Math.abs(to - from) < LEAST_RANGE) return;
          const next = [Math.min(from, to), Math.max(from, to)] as const;
          void withEngine((engine) => engine.setRange(next));
        }}
        onPointerUp={(event) => {
          const from = dragFrom.current;
          dragFrom.current = null;
          if (from === null || Math.abs(shareAt(event) - from) >= LEAST_RANGE) return;
          void withEngine((engine) => {
            engine.setRange(null);
            engine.seek(from);
          });
        }}
        onPointerCancel={() => (dragFrom.current = null)}
      >
        <title>
          Click: go there. Pull: go round in between ([ and ] by keys); click again: all of it.
        </title>
        <path d={bow} fill="none" stroke="var(--hairline)" strokeWidth={1.4} />
        <path
          ref={played}
          d={bow}
          pathLength={1}
          fill="none"
          stroke="var(--color-base-content)"
          strokeWidth={1.8}
          strokeDasharray={1}
          strokeDashoffset={1}
        />
        {range && (
          <path
            d={bow}
            pathLength={1}
            fill="none"
            stroke="var(--color-primary)"
            strokeWidth={4}
            strokeOpacity={0.45}
            strokeDasharray={`0 ${range[0]} ${range[1] - range[0]} 2`}
          />
        )}
        {active && <circle ref={head} cx={6} cy={3} r={3.2} fill="var(--color-base-content)" />}
      </svg>
    </div>
  );
}

interface SwitchProps {
  on: boolean;
  words: string;
  keys: string;
  about: string;
  disabled?: boolean;
  toggle: () => void;
}

function Switch({ on, words, keys, about, disabled = false, toggle }: SwitchProps) {
  return (
    <button
      className={`btn btn-ghost btn-xs px-1.5 ${on ? 'underline decoration-2 underline-offset-4' : 'font-normal'}`}
      aria-pressed={on}
      disabled={disabled}
      title={`${about} (${keys} here, Shift+${keys} everywhere)`}
      onClick={toggle}
    >
      <span className="max-w-36 truncate">{words}</span>
    </button>
  );
}

/** What is heard, in one line: always that it is a simulation, and on what it is meant to be heard. */
function heardWords(state: ReturnType<typeof listeningStore.getState>, blind: boolean): string {
  if (state.state === 'preparing') {
    return `players get ready, ${Math.round(state.made * 100)} %`;
  }
  const plain = state.plain ? ', plain playback' : '';
  const how = state.headphones ? 'headphones, as from two loudspeakers' : 'for two loudspeakers';
  // Level, rate and name of what is heard would tell what it is.
  if (blind) return `${how}${state.waiting ? ' · being read' : ''}`;
  const recorded = state.recordings.find(({ side }) => side === state.side);
  const side = `${ofCandidate(state.side) ? 'candidate, ' : ''}${roomAlone(state.side) ? 'room alone, ' : ''}`;
  const waiting = state.waiting
    ? ` · being made, ${Math.round(state.made * 100)} %`
    : state.thinned
      ? ' · without reflections: the machine is busy'
      : '';
  const mono = state.mono ? 'in mono, ' : '';
  const swapped = state.swap ? 'sides changed, ' : '';
  if (recorded) {
    const trim = recorded.trimDb;
    const by = trim === null || trim === 0 ? '' : `, ${formatSigned(trim, 1)} dB to one loudness`;
    return `recording: ${recorded.name} · ${mono}${swapped}${how}${by}${state.waiting ? ' · being read' : ''}`;
  }
  return `simulation · ${side}${mono}${swapped}${how}${plain}${waiting}`;
}

const PLAIN_WORDS =
  'the browser gives this page no processor for sound, as it did not come by a secure way: mono, sides and headphones are missing, and what is moved is heard when the hand rests';

const THINNED_WORDS = 'the machine is busy: reflections that follow the hand are left out';

const SIMULATION_WORDS =
  'players, hall and microphones are computed: place, width and room can be judged, timbre cannot';

/** All that is to be known of what is heard. */
function moreWords(state: ReturnType<typeof listeningStore.getState>, blind: boolean): string[] {
  if (blind) return [];
  const { latencyMs, notes, plain, thinned } = state;
  return [
    ...(isRecording(state.side) ? [] : [SIMULATION_WORDS]),
    ...notes,
    ...(plain ? [PLAIN_WORDS] : []),
    ...(thinned ? [THINNED_WORDS] : []),
    ...(latencyMs === null ? [] : [`${latencyMs} ms to the loudspeakers`]),
  ];
}

/** What is simplified in what is heard, whole, where the line has no room for it. */
function About() {
  const listening = useStore(listeningStore);
  const blind = useStore(panelStore, (panels) => panels.blind);
  return (
    <Menu
      button={<Info size={13} />}
      label="About what is heard"
      title="About what is heard"
      buttonClass="btn btn-ghost btn-xs btn-square"
      className="dropdown-top dropdown-end"
    >
      {() => (
        <ul
          aria-label="About what is heard"
          className="dropdown-content border-hairline bg-base-200 fixed! right-4! bottom-9! left-auto! z-30 w-[34rem] max-w-[calc(100vw-2rem)] list-disc rounded-[3px] border py-2 pr-3 pl-7 text-[13px] leading-snug whitespace-normal"
        >
          {moreWords(listening, blind).map((words) => (
            <li key={words}>{capitalised(words)}.</li>
          ))}
        </ul>
      )}
    </Menu>
  );
}

/** Plays what the page shows, and stops it. */
export function ListenButton() {
  const playing = useStore(listeningStore, (state) => state.state !== 'silent');
  return (
    <button
      className="btn btn-xs"
      aria-pressed={playing}
      title="Play the plan through its microphones (Space)"
      onClick={() => void togglePlay()}
    >
      {playing ? <Pause size={13} /> : <Play size={13} />}
      {playing ? 'Stop' : 'Listen'}
    </button>
  );
}

/** Hearing the plan: play, the bow of time, whom, which, and how. */
export const Transport = memo(function Transport({ candidate }: { candidate: string | null }) {
  const listening = useStore(listeningStore);
  const { state, side, plain, problem } = listening;
  const blind = useStore(panelStore, (panels) => panels.blind);
  const playing = state !== 'silent';
  const loud = listening.volumeDb > LOUD_DB;
  return (
    <div className="border-hairline flex h-8 shrink-0 items-center gap-2 border-t px-4 pointer-coarse:h-12 text-[12.5px] whitespace-nowrap max-md:gap-1 max-md:px-2 max-sm:h-auto max-sm:flex-wrap max-sm:py-1">
      <ListenButton />
      <Bow />
      <p
        className={`min-w-0 truncate ${problem || loud ? 'text-warning' : 'text-muted'} max-md:sr-only`}
        role="status"
        aria-label="What is heard"
        title={
          problem ?? [heardWords(listening, blind), ...moreWords(listening, blind)].join(' · ')
        }
      >
        {problem ??
          (playing
            ? `${loud ? 'loud: mind your ears · ' : ''}${heardWords(listening, blind)}`
            : blind
              ? 'somebody listens blind'
              : isRecording(side)
                ? (listening.recordings.find((one) => one.side === side)?.name ?? 'a recording')
                : 'a simulation: place, width and room, not timbre')}
      </p>
      {playing && !blind && <About />}
      <WhichArrays />
      <FadersMenu />
      <Who />
      {candidate !== null && !blind && (
        <Switch
          on={ofCandidate(side)}
          words={candidate}
          keys="B"
          about="The candidate instead of the plan, at the same loudness"
          toggle={() => toggleSide('candidate')}
        />
      )}
      {!blind && (
        <Switch
          on={roomAlone(side)}
          words="room"
          keys="R"
          about="The room alone, without direct sound"
          toggle={() => toggleSide('room')}
        />
      )}
      <Switch
        on={listening.mono}
        words="mono"
        keys="O"
        about="Both channels as one"
        disabled={plain}
        toggle={() => toggleHearing('mono')}
      />
      <Switch
        on={listening.swap}
        words="L⇄R"
        keys="X"
        about="Left and right change places"
        disabled={plain}
        toggle={() => toggleHearing('swap')}
      />
      <Switch
        on={listening.dim}
        words="dim"
        keys="D"
        about="Softer by 20 dB"
        toggle={() => toggleHearing('dim')}
      />
      <button
        className={`btn btn-ghost btn-xs btn-square ${listening.headphones ? 'border-b-base-content! rounded-none border-b-2!' : ''}`}
        aria-pressed={listening.headphones}
        aria-label="Headphones: as from two loudspeakers"
        title="On headphones as from two loudspeakers, by a sphere for a head: the line is drawn for loudspeakers (H here, Shift+H everywhere)"
        disabled={plain}
        onClick={() => toggleHearing('headphones')}
      >
        <Headphones size={14} />
      </button>
      <input
        type="range"
        className="volume w-20 max-md:w-12"
        aria-label="Volume"
        aria-valuetext={`${listening.volumeDb} dB`}
        title={`${listening.volumeDb} dB. Begin low: loud sound harms hearing.`}
        min={-60}
        max={0}
        step={1}
        value={listening.volumeDb}
        onChange={(event) => setHearing({ volumeDb: Number(event.currentTarget.value) })}
      />
    </div>
  );
});
