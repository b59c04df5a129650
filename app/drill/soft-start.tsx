import { useEffect, type ReactNode } from 'react';
import { useStore } from 'zustand';
import { setHearing, withEngine } from '../audio/actions';
import { listeningStore } from '../audio/listening';
import { panelStore } from '../view/panels';

/** Every exercise begins so softly, dB; the listener raises it. */
const SOFT_DB = -42;

/** While an exercise is here: soft at first, nothing swapped or summed; afterwards as it was. */
export function useSoftStart(headphones: boolean | null = null): void {
  useEffect(() => {
    const { volumeDb, mono, swap, dim, headphones: before } = listeningStore.getState();
    panelStore.setState({ blind: true });
    const head = headphones === null ? {} : { headphones };
    void withEngine((engine) => engine.stop());
    setHearing({ volumeDb: SOFT_DB, mono: false, swap: false, dim: false, ...head });
    return () => {
      panelStore.setState({ blind: false });
      setHearing({ volumeDb, mono, swap, dim, headphones: before });
    };
  }, [headphones]);
}

/** How loud it is, at hand all the time. */
export function Volume() {
  const volumeDb = useStore(listeningStore, (state) => state.volumeDb);
  const problem = useStore(listeningStore, (state) => state.problem);
  return (
    <>
      <label className="flex items-center gap-3">
        <span className="text-muted">Loudness</span>
        <input
          type="range"
          className="volume w-56 max-sm:w-40"
          aria-label="Loudness of the exercise"
          aria-valuetext={`${volumeDb} dB`}
          min={-60}
          max={0}
          step={1}
          value={volumeDb}
          onChange={(event) => setHearing({ volumeDb: Number(event.currentTarget.value) })}
        />
        <span className="w-16 tabular-nums">{volumeDb} dB</span>
      </label>
      {problem !== null && (
        <p role="alert" className="text-error">
          {problem}
        </p>
      )}
    </>
  );
}

/** Where a sound is an addition to a question: the same caution, in a line. */
export const Caution = () => (
  <p className="text-muted text-[12.5px]">
    Sound begins very softly. Raise it, and no louder than you would listen for an hour: loud sound
    harms hearing, on headphones sooner.
  </p>
);

interface Props {
  /** what is about to begin */
  name: string;
  about: ReactNode;
  begin: () => void;
  children?: ReactNode;
}

/** Before the first sound: the caution, and a soft beginning. */
export function SoftStart({ name, about, begin, children }: Props) {
  return (
    <section aria-label="Before it begins" className="flex max-w-[62ch] flex-col gap-3">
      <h2 className="text-[18px]">{name}</h2>
      <div>{about}</div>
      <p className="border-warning border-l-2 pl-3">
        It begins very softly. Raise it until it is as loud as you would listen for an hour, and no
        louder: loud sound harms hearing, on headphones sooner. Rest your ears after twenty minutes.
      </p>
      <Volume />
      {children}
      <div>
        <button className="btn btn-primary" onClick={begin}>
          Begin
        </button>
      </div>
    </section>
  );
}
