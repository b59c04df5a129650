import type { ReactNode } from 'react';
import { placeText } from '../../core/audio/measure/readings';
import type { Treatment } from '../../core/recorded';
import type { AnswerState } from '../workers/use-task';
import { messageOf, type OpenRecording } from './recordings';

/** A stretch of a recording, s. */
export interface Seconds {
  fromS: number;
  toS: number;
}

/** What every page of the bench is about. */
export interface PageProps {
  recording: OpenRecording;
  /** what is chosen on the curve; null is the whole */
  stretch: Seconds | null;
  /** leads to a place on the curve */
  go: (at: Seconds) => void;
}

/** And a page that says what is to be done to it. */
export interface TreatingProps extends PageProps {
  treatment: Treatment;
  treat: (change: Partial<Treatment>) => void;
  /** what is heard is the recording as it is treated */
  hear: () => void;
}

/** "0:10.000 to 0:12.500" */
export const stretchText = ({ fromS, toS }: Seconds): string =>
  `${placeText(fromS)} to ${placeText(toS)}`;

/** The chosen stretch, or the whole; no more than so much of it. */
export function askedStretch({ recording, stretch }: PageProps, mostS: number): Seconds {
  const wholeS = recording.info.frames / recording.info.format.sampleRateHz;
  const { fromS, toS } = stretch ?? { fromS: 0, toS: wholeS };
  return { fromS, toS: Math.min(toS, fromS + mostS) };
}

interface WorkProps {
  state: AnswerState<unknown>;
  what: string;
  cancel: () => void;
  children?: ReactNode;
}

/** How far a question is, that it can be given up, and why it was not answered. */
export function Working({ state, what, cancel, children }: WorkProps) {
  const { busy, error, progress } = state;
  if (error !== null) {
    return (
      <p role="alert" className="text-error py-1">
        {what} could not be read: {messageOf(new Error(error))}
      </p>
    );
  }
  if (!busy) return children;
  return (
    <p role="status" className="text-muted flex items-center gap-3 py-1">
      {what}: {Math.round(100 * progress)} %
      <button className="btn btn-xs" onClick={cancel}>
        Cancel
      </button>
    </p>
  );
}
