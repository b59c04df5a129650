import { Camera, Trash2, X } from 'lucide-react';
import { useMemo, useState, type ReactNode } from 'react';
import {
  barOfPhoto,
  builtByPhoto,
  markWords,
  photoOf,
  photoSentence,
  planOnPhoto,
  wantedMarks,
  type MarkName,
  type Photograph,
  type Pixel,
} from '../../core/photo';
import type { MicArray } from '../../core/session';
import { noteBuilt } from '../document/edits';
import { useSession } from '../document/use-session';
import { usePicture } from '../keeping/use-picture';
import { formatNumber } from '../../core/units';
import { QuantityField } from '../parts/quantity-field';
import { angleKind, lengthKind } from '../parts/quantity-kinds';
import { notify, notifyFailure } from '../view/notices';
import { fieldKey } from '../view/validity';
import { change, remove, shrink, take } from './photographs';
import { PhotoPicture } from './photo-picture';

/** Smaller than this no picture is made. */
const LEAST_PX = 1200;
/** Usual sizes of paper, m. */
const SHEETS = [
  ['A4', 0.297, 0.21],
  ['A3', 0.42, 0.297],
  ['A5', 0.21, 0.148],
  ['Letter', 0.2794, 0.2159],
] as const;

/** Which way the device was held, where the browser says so: how far from looking straight down. */
function useTiltReader(set: (deg: number) => void): (() => void) | null {
  if (typeof DeviceOrientationEvent === 'undefined') return null;
  return () => {
    const heard = ({ beta, gamma }: DeviceOrientationEvent): void => {
      if (beta === null || gamma === null) return;
      stop();
      const [b, g] = [beta, gamma].map((deg) => (deg * Math.PI) / 180) as [number, number];
      set(Math.min(45, (Math.acos(Math.cos(b) * Math.cos(g)) * 180) / Math.PI));
    };
    const stop = (): void => {
      clearTimeout(timer);
      removeEventListener('deviceorientation', heard);
    };
    const timer = setTimeout(() => {
      stop();
      notify('This device does not say how it is held: type the tilt.');
    }, 1500);
    addEventListener('deviceorientation', heard);
  };
}

interface EditorProps {
  photograph: Photograph;
  array: MicArray;
  close: () => void;
}

/** What gives the scale, and what of the picture is not known. */
function Asked({ photograph }: { photograph: Photograph }) {
  const { units } = useSession().settings;
  const { id, scale, view, sheetWidthM, sheetHeightM } = photograph;
  const set = (part: Partial<Photograph>): void =>
    change(id, (one) => void Object.assign(one, part));
  const readTilt = useTiltReader((tiltDeg) => set({ tiltDeg }));
  const field = (
    label: string,
    name:
      'sheetWidthM' | 'sheetHeightM' | 'lengthM' | 'leftHeightM' | 'rightHeightM' | 'heightWithinM',
    bounds: 'sheetM' | 'offPlaneM' | 'offWithinM',
  ): ReactNode => (
    <QuantityField
      label={label}
      fieldKey={fieldKey('photograph', id, name)}
      kind={lengthKind(bounds, units, 'bar')}
      value={photograph[name]}
      onCommit={(value) => value !== null && set({ [name]: value })}
    />
  );
  const sheet = SHEETS.find(
    ([, width, height]) =>
      Math.abs(width - sheetWidthM) < 1e-6 && Math.abs(height - sheetHeightM) < 1e-6,
  );
  return (
    <div>
      <label className="flex items-center justify-between gap-2 py-1">
        <span className="text-muted">Scale</span>
        <select
          aria-label="Scale"
          className="select select-sm w-auto"
          value={scale}
          onChange={(event) => set({ scale: event.currentTarget.value as Photograph['scale'] })}
        >
          <option value="sheet">a sheet of paper</option>
          <option value="length">a known length</option>
        </select>
      </label>
      {scale === 'sheet' ? (
        <>
          <label className="flex items-center justify-between gap-2 py-1">
            <span className="text-muted">Size</span>
            <select
              aria-label="Size of the sheet"
              className="select select-sm w-auto"
              value={sheet?.[0] ?? ''}
              onChange={(event) => {
                const { value } = event.currentTarget;
                const found = SHEETS.find(([name]) => name === value);
                if (found) set({ sheetWidthM: found[1], sheetHeightM: found[2] });
              }}
            >
              {!sheet && <option value="">its own</option>}
              {SHEETS.map(([name]) => (
                <option key={name}>{name}</option>
              ))}
            </select>
          </label>
          {field('One side of the sheet', 'sheetWidthM', 'sheetM')}
          {field('Other side of the sheet', 'sheetHeightM', 'sheetM')}
        </>
      ) : (
        <>
          {field('Known length', 'lengthM', 'sheetM')}
          <QuantityField
            label={view === 'above' ? 'Camera off plumb by about' : 'Camera off level by about'}
            fieldKey={fieldKey('photograph', id, 'tilt')}
            kind={angleKind('cameraTiltDeg')}
            value={photograph.tiltDeg}
            onCommit={(value) => value !== null && set({ tiltDeg: value })}
          />
          {readTilt && view === 'above' && (
            <button className="btn btn-xs" onClick={readTilt}>
              As this device is held now
            </button>
          )}
        </>
      )}
      {view === 'above' && (
        <>
          {field('Left capsule above the scale', 'leftHeightM', 'offPlaneM')}
          {field('Right capsule above the scale', 'rightHeightM', 'offPlaneM')}
          {field('Heights are good to', 'heightWithinM', 'offWithinM')}
        </>
      )}
    </div>
  );
}

/** What the marks say so far: the bar, what is wrong, or what is missing. */
function Said({ photograph, array }: Omit<EditorProps, 'close'>) {
  const { units } = useSession().settings;
  const photo = photoOf(photograph);
  const answer = useMemo(() => photo && barOfPhoto(photo), [photo]);
  if (!answer) {
    return (
      <p role="status" aria-label="The bar" className="text-muted">
        Mark what is still missing.
      </p>
    );
  }
  if (!answer.ok) {
    return (
      <p role="status" aria-label="The bar" className="text-error">
        Cannot be told: {answer.message}.
      </p>
    );
  }
  const bar = answer.value;
  return (
    <>
      <p role="status" aria-label="The bar" className="font-semibold">
        {photoSentence(bar, units)}
      </p>
      <p className="text-muted text-[12.5px]">
        {photograph.view === 'above'
          ? 'Half of the 90 % interval: marks good to a pixel, a lens that bends its corners by 2 %, the tilt and the heights as said.'
          : 'From in front nothing is said of the angle. Half of the 90 % interval.'}
      </p>
      <button
        className="btn btn-sm btn-primary"
        onClick={() =>
          noteBuilt(builtByPhoto(array.id, bar), `As built: ${array.name} by a photograph.`)
        }
      >
        To As built
      </button>
    </>
  );
}

/** A photograph of a bar, marked until it says how the bar is set. */
export function PhotoEditor({ photograph, array, close }: EditorProps) {
  const { blobs } = useSession();
  const { id, marks, view } = photograph;
  const url = usePicture(blobs, photograph.picture);
  const bytes = blobs.find((one) => one.id === photograph.picture)?.bytes;
  const wanted = wantedMarks(photograph);
  const missing = wanted.filter((name) => !marks.some((mark) => mark.name === name));
  /** the mark that keys move: picked in the list, or the one that was set last */
  const [picked, setPicked] = useState<{ name: MarkName; inList: boolean } | null>(null);
  const [overlay, setOverlay] = useState(true);
  const chosen = picked && wanted.includes(picked.name) ? picked.name : null;
  const next = (picked?.inList ? chosen : null) ?? missing[0] ?? chosen;
  const put = (name: MarkName, { u, v }: Pixel): void => {
    change(id, (one) => {
      one.marks = [...one.marks.filter((mark) => mark.name !== name), { name, u, v }];
    });
    setPicked({ name, inList: false });
  };
  const photo = photoOf(photograph);
  const { technique } = array;
  const plan = useMemo(() => {
    const answer = photo && barOfPhoto(photo);
    if (!photo || !answer?.ok || technique.kind !== 'pair' || view !== 'above') return [];
    return planOnPhoto(photo, answer.value, technique);
  }, [photo, technique, view]);
  return (
    <section aria-label="Photograph" className="mx-auto w-full max-w-6xl">
      <div className="flex items-center gap-3 pb-2">
        <h2 className="flex-1 text-[16px]">
          {array.name}, from {view === 'above' ? 'above' : 'in front'}
        </h2>
        <span className="text-muted text-[12.5px]">
          {photograph.widthPx} × {photograph.heightPx}
          {bytes === undefined ? '' : `, ${formatNumber(bytes / 1e6, 1)} MB in the session`}
        </span>
        {Math.max(photograph.widthPx, photograph.heightPx) > LEAST_PX && (
          <button
            className="btn btn-sm font-normal"
            onClick={() => void shrink(photograph, blobs).catch(notifyFailure)}
          >
            Shrink to half
          </button>
        )}
        <button className="btn btn-sm" onClick={close}>
          <X size={15} /> Close
        </button>
      </div>
      <div className="flex flex-wrap gap-4">
        <div className="min-w-72 flex-[3]">
          <PhotoPicture
            {...{ photograph, url, next, chosen, put }}
            choose={(name) => setPicked({ name, inList: false })}
            plan={overlay ? plan : []}
          />
        </div>
        <div className="flex min-w-64 flex-1 flex-col gap-3">
          <Said photograph={photograph} array={array} />
          {plan.length > 0 && (
            <label className="flex items-center gap-2 text-[12.5px]">
              <input
                type="checkbox"
                className="checkbox checkbox-sm"
                checked={overlay}
                onChange={(event) => setOverlay(event.currentTarget.checked)}
              />
              The plan’s bar over it, dashed
            </label>
          )}
          <ul aria-label="Marks">
            {wanted.map((name) => {
              const set = !missing.includes(name);
              return (
                <li key={name}>
                  <button
                    className={`btn btn-xs w-full justify-start pointer-coarse:btn-sm ${name === next ? 'btn-neutral' : 'btn-ghost font-normal'}`}
                    aria-pressed={name === next}
                    onClick={() => setPicked({ name, inList: true })}
                  >
                    {set ? '●' : '○'} {markWords(name, view)}
                  </button>
                </li>
              );
            })}
          </ul>
          <Asked photograph={photograph} />
        </div>
      </div>
    </section>
  );
}

interface PhotosProps {
  array: MicArray;
  open: (id: string) => void;
}

/** The photographs of a pair, and a new one from a file or the device’s own camera. */
export function Photographs({ array, open }: PhotosProps) {
  const { rig } = useSession();
  const [busy, setBusy] = useState(false);
  if (array.technique.kind !== 'pair') return null;
  const own = rig.photographs.filter(({ arrayId }) => arrayId === array.id);
  const input = (view: Photograph['view'], words: string): ReactNode => (
    <label className="btn btn-xs font-normal">
      <Camera size={13} /> {words}
      <input
        type="file"
        accept="image/jpeg,image/png"
        className="sr-only"
        aria-label={`${array.name}, photograph ${words}`}
        disabled={busy}
        onChange={(event) => {
          const [file] = event.currentTarget.files ?? [];
          event.currentTarget.value = '';
          if (!file) return;
          setBusy(true);
          take(file, array.id, view)
            .then((id) => id !== null && open(id), notifyFailure)
            .finally(() => setBusy(false));
        }}
      />
    </label>
  );
  return (
    <div className="no-print flex flex-wrap items-center gap-2 py-1 text-[12.5px]">
      <span className="text-muted">{busy ? 'The picture is read …' : 'Photograph'}</span>
      {input('above', 'from above')}
      {input('front', 'from in front')}
      {own.map(({ id, view }, i) => (
        <span key={id} className="inline-flex items-center">
          <button className="btn btn-xs" onClick={() => open(id)}>
            {i + 1}, from {view === 'above' ? 'above' : 'in front'}
          </button>
          <button
            className="btn btn-ghost btn-xs btn-square"
            aria-label={`Remove photograph ${i + 1} of ${array.name}`}
            onClick={() => remove(id)}
          >
            <Trash2 size={13} />
          </button>
        </span>
      ))}
    </div>
  );
}
