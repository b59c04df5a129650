import { placeText, type Reading } from '../../core/audio/measure/readings';
import type { TakeFigures } from '../../core/audio/measure/take';
import type { LogEntry } from '../../core/session';
import { enter, logIndex, strike } from '../document/journals';
import { useSession } from '../document/use-session';
import { notify } from '../view/notices';
import { MEASURED, type OpenRecording } from './recordings';

interface Props {
  recording: OpenRecording;
  /** of the whole, or of the part; null while they are measured */
  figures: TakeFigures | null;
  readings: readonly Reading[];
  /** a stretch that they are of; null is the whole */
  part: { fromS: number; toS: number } | null;
}

type Measurement = Extract<LogEntry, { kind: 'measurement' }>;

/** Its sentences, as they were kept with it. */
function saidIn({ figures }: Measurement): string[] {
  const { said } = figures as { said?: unknown };
  return Array.isArray(said) ? said.filter((text): text is string => typeof text === 'string') : [];
}

/** Puts what was measured into the session. */
export function KeepButton({ recording, figures, readings, part }: Props) {
  const { reference } = recording;
  function keep(): void {
    if (!figures) return;
    const { channels, clips, loudness, correlation, bands, hum, delays, identity } = figures;
    const said = readings.map(({ text }) => text);
    const id = enter('log', {
      kind: 'measurement',
      by: '',
      file: reference,
      fromS: part?.fromS ?? 0,
      toS: part?.toS ?? null,
      asked: [...MEASURED],
      figures: { said, channels, clips, loudness, correlation, bands, hum, delays, identity },
      version: '',
    });
    if (id !== '') notify('Kept: the figures are in the session, with the name of the file.');
  }
  return (
    <button className="btn btn-sm mt-3" disabled={!figures} onClick={keep}>
      Keep these figures
    </button>
  );
}

/** "2 Dec 2026, 14:05" of this place */
const whenText = (at: string): string =>
  new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });

/** What was measured stays with the session, and is read without the file. */
export function Kept() {
  const session = useSession();
  const kept = logIndex(session.log)
    .of('measurement')
    .flatMap(({ standing }) => (standing ? [standing] : []));
  return (
    <section aria-label="Kept" className="pt-6">
      <h2 className="pb-1 text-[15px]">Kept measurements</h2>
      {kept.length === 0 && (
        <p className="text-muted text-[12.5px]">
          None yet. What is kept is an entry of the session: it is read and sent on without the
          file.
        </p>
      )}
      <ul>
        {kept.map((entry) => (
          <li key={entry.id} className="border-hairline border-b py-1.5">
            <details>
              <summary className="cursor-pointer">
                {entry.file?.name || 'a recording'}, {whenText(entry.at)}
                {entry.toS !== null && `, ${placeText(entry.fromS)} to ${placeText(entry.toS)}`}
              </summary>
              <ul className="list-disc pl-6">
                {saidIn(entry).map((text) => (
                  <li key={text}>{text}</li>
                ))}
              </ul>
              <button className="btn btn-xs btn-ghost" onClick={() => strike('log', entry.id)}>
                Strike it
              </button>
            </details>
          </li>
        ))}
      </ul>
    </section>
  );
}
