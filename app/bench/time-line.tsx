import { useEffect, useRef, type KeyboardEvent } from 'react';
import { placeText, type Reading } from '../../core/audio/measure/readings';
import { isRecording, listeningStore, onHeard } from '../audio/listening';
import type { OpenRecording } from './recordings';
import { Staves, type StaveHeight } from './stave';
import { usePulls } from './use-pulls';
import { moved, within, zoomed, type View } from './view';

/** One notch of a wheel, and one press of a key. */
const [WHEEL, KEY] = [0.0015, 0.5];

interface Props {
  recording: OpenRecording;
  readings: readonly Reading[];
  view: View;
  setView: (next: (view: View) => View) => void;
  stretch: View | null;
  setStretch: (stretch: View | null) => void;
  /** of one channel */
  height: StaveHeight;
  /** what everything is drawn up by, dB */
  upDb: number;
}

/** Where what is heard is, drawn past all rendering. */
function Playhead({ view, frames }: { view: View; frames: number }) {
  const line = useRef<HTMLDivElement>(null);
  useEffect(
    () =>
      onHeard((heard) => {
        const { side, lengthFrames } = listeningStore.getState();
        if (!line.current) return;
        const at =
          heard && isRecording(side) ? (heard.levels.position / lengthFrames) * frames : -1;
        const share = (at - view.from) / (view.to - view.from);
        line.current.hidden = !(share >= 0 && share <= 1);
        line.current.style.left = `${100 * share}%`;
      }),
    [view, frames],
  );
  return (
    <div
      ref={line}
      hidden
      aria-hidden="true"
      className="bg-primary pointer-events-none absolute inset-y-0 w-[1.5px]"
    />
  );
}

/** What a key does to what is seen, or to the stretch; null where it does nothing. */
function keyed(
  key: string,
  view: View,
  stretch: View | null,
  frames: number,
): { view?: View; stretch?: View | null } | null {
  const middle = (view.from + view.to) / 2;
  const wide = view.to - view.from;
  switch (key) {
    case 'ArrowLeft':
      return { view: moved(view, -0.1, frames) };
    case 'ArrowRight':
      return { view: moved(view, 0.1, frames) };
    case '+':
    case '=':
      return { view: zoomed(view, middle, KEY, frames) };
    case '-':
      return { view: zoomed(view, middle, 1 / KEY, frames) };
    case 'Home':
      return { view: within({ from: 0, to: wide }, frames) };
    case 'End':
      return { view: within({ from: frames - wide, to: frames }, frames) };
    case '0':
      return { view: { from: 0, to: frames } };
    case '[':
      return { stretch: within({ from: view.from, to: stretch?.to ?? view.to }, frames) };
    case ']':
      return { stretch: within({ from: stretch?.from ?? view.from, to: view.to }, frames) };
    case 'Escape':
      return stretch ? { stretch: null } : null;
    default:
      return null;
  }
}

/** The recording over time: turned, pulled and pressed as one likes; what is wrong stands where it happens. */
export function TimeLine(props: Props) {
  const { recording, readings, view, setView, stretch, setStretch, height, upDb } = props;
  const box = useRef<HTMLDivElement>(null);
  const { frames, format } = recording.info;
  const { sampleRateHz } = format;
  const pulls = usePulls({ box, view, setView, setStretch, frames });
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    // Not by React: it listens passively, and the page would scroll as well.
    const turned = (event: WheelEvent): void => {
      event.preventDefault();
      const { left, width } = element.getBoundingClientRect();
      const share = (event.clientX - left) / width;
      const across = event.shiftKey ? event.deltaY : event.deltaX;
      setView((now) =>
        Math.abs(across) > Math.abs(event.shiftKey ? event.deltaX : event.deltaY)
          ? moved(now, across / width, frames)
          : zoomed(
              now,
              now.from + share * (now.to - now.from),
              Math.exp(event.deltaY * WHEEL),
              frames,
            ),
      );
    };
    element.addEventListener('wheel', turned, { passive: false });
    return () => element.removeEventListener('wheel', turned);
  }, [setView, frames]);

  function pressed(event: KeyboardEvent): void {
    const next = keyed(event.key, view, stretch, frames);
    if (!next) return;
    event.preventDefault();
    event.stopPropagation();
    if (next.view) setView(() => next.view as View);
    if (next.stretch !== undefined) setStretch(next.stretch);
  }

  const share = (frame: number): number => (frame - view.from) / (view.to - view.from);
  const seen = readings.flatMap((reading) => {
    if (!reading.at) return [];
    const middle = ((reading.at.fromS + reading.at.toS) / 2) * sampleRateHz;
    const at = share(middle);
    return at < 0 || at > 1 ? [] : [{ reading, at }];
  });
  return (
    <div
      ref={box}
      role="application"
      tabIndex={0}
      aria-label={`${recording.title}, ${placeText(view.from / sampleRateHz, 2)} to ${placeText(view.to / sampleRateHz, 2)}: arrows move, plus and minus zoom, 0 shows all, brackets make a stretch of what is seen`}
      className="text-base-content relative cursor-crosshair touch-none overflow-hidden"
      style={{ height: format.channels * height }}
      {...pulls}
      onKeyDown={pressed}
    >
      <Staves recording={recording} view={view} height={height} upDb={upDb} />
      {stretch && (
        <div
          aria-hidden="true"
          className="bg-primary/15 border-primary pointer-events-none absolute inset-y-0 border-x"
          style={{
            left: `${100 * share(stretch.from)}%`,
            width: `${100 * (share(stretch.to) - share(stretch.from))}%`,
          }}
        />
      )}
      {recording.info.cues.map(({ id, position, label }) => {
        const at = share(position);
        return (
          at >= 0 &&
          at <= 1 && (
            <div
              key={id}
              aria-hidden="true"
              className="border-primary text-primary pointer-events-none absolute inset-y-0 max-w-32 truncate border-l border-dashed pl-1 text-[11.5px] leading-none"
              style={{ left: `${100 * at}%` }}
            >
              {label}
            </div>
          )
        );
      })}
      {seen.map(({ reading, at }) => (
        <div
          key={reading.key}
          aria-hidden="true"
          className="border-error text-error pointer-events-none absolute border-l pl-1 text-[11.5px] leading-none"
          style={{
            left: `${100 * at}%`,
            top: (reading.channels[0] ?? 0) * height + 2,
            height: height - 4,
          }}
        >
          {reading.key.split(' ')[0] === 'clips' ? 'clip' : 'flat'}
        </div>
      ))}
      <Playhead view={view} frames={frames} />
    </div>
  );
}
