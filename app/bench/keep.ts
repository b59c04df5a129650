import { useEffect } from 'react';
import type { TakeFigures } from '../../core/audio/measure/take';
import { speedOfSound } from '../../core/units';
import { keptFigures } from '../../paper/measurement-report';
import { enter } from '../document/journals';
import { sessionStore } from '../document/session-store';
import { keptVersion } from '../keeping/versions';
import type { Seconds } from './asked';
import { boundFiles, takeOf } from './opening';
import { MEASURED, type OpenRecording } from './recordings';

/** What is measured of a recording, as it is kept. */
export interface Keepable {
  recording: OpenRecording;
  /** of the whole, or of the part; null while they are measured */
  figures: TakeFigures | null;
  /** a stretch that they are of; null is the whole */
  part: Seconds | null;
}

/**
 * Puts what was measured into the session, with the version of the plan that it belongs to.
 * @returns whether it is there
 */
export function keepFigures({ recording, figures, part }: Keepable): boolean {
  const { session } = sessionStore.getState();
  if (!figures || !session) return false;
  const version = keptVersion(session);
  const [file] = boundFiles(recording);
  const id = enter(
    'log',
    {
      kind: 'measurement',
      by: '',
      file: file ? { ...file, name: recording.title } : null,
      take: takeOf(session, recording)?.id ?? '',
      fromS: part?.fromS ?? 0,
      toS: part?.toS ?? null,
      asked: [...MEASURED],
      figures: keptFigures(figures, {
        names: recording.names,
        sampleRateHz: recording.info.format.sampleRateHz,
        speed: speedOfSound(session.venue.temperatureC),
        units: session.settings.units,
      }),
      version: version.hash,
    },
    [version],
  );
  return id !== '';
}

/** Demos in which that was tried in this page. */
const tried = new Set<string>();

/** A demo shows what keeping is: the figures of the first of its takes are kept once, unasked. */
export function useKeptInDemo(keepable: Keepable): void {
  useEffect(() => {
    const { session } = sessionStore.getState();
    const { recording, figures } = keepable;
    if (!session?.id.startsWith('demo-') || !figures || !recording.simulation) return;
    if (tried.has(session.id)) return;
    tried.add(session.id);
    if (session.log.some(({ kind }) => kind === 'measurement')) return;
    keepFigures(keepable);
  });
}
