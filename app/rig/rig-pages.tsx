import { fieldKey } from '../view/validity';
import { Download } from 'lucide-react';
import { useState } from 'react';
import {
  buildOrder,
  cablesAsked,
  cableUses,
  completeness,
  packList,
  rigTables,
  type RigTable,
} from '../../core/rig';
import { timeText } from '../../core/planning';
import { writeSessionText } from '../../core/session';
import { lengthText } from '../../core/units';
import type { Paper } from '../../paper/sheet-pdf';
import { ChoiceField, Readout } from '../parts/fields';
import { QuantityField } from '../parts/quantity-field';
import { lengthKind } from '../parts/quantity-kinds';
import { contentsOf } from '../keeping/blobs';
import { allowedToLeave } from '../keeping/ask-own';
import { download, fileName } from '../keeping/files';
import { edit } from '../document/session-store';
import { exportTable } from '../keeping/exports';
import { notify, notifyFailure } from '../view/notices';
import { useSession } from '../document/use-session';

/** One table of the rig as CSV. */
export function CsvButton({ name }: { name: RigTable['name'] }) {
  const session = useSession();
  return (
    <button
      className="btn btn-sm no-print font-normal"
      onClick={() => void exportTable(session, name)}
    >
      <Download size={14} /> CSV
    </button>
  );
}

const DOUBLE_CLICK_MS = 600;

/** Every table as CSV and the session itself, in one archive. */
export function ArchiveButton(props: { bothUnits: boolean; paper: Paper }) {
  const session = useSession();
  const [going, setGoing] = useState<{ done: number; stop: () => void } | null>(null);
  async function make() {
    const stop = new AbortController();
    const begun = performance.now();
    // The second click of a double one does not end what the first began.
    const end = () => performance.now() - begun > DOUBLE_CLICK_MS && stop.abort();
    const tell = (done: number) => setGoing({ done, stop: end });
    tell(0);
    try {
      const [{ packArchive }, { csvText }, { sheetFile }] = await Promise.all([
        import('../keeping/archive'),
        import('../../paper/csv'),
        import('../keeping/sheet-file'),
      ]);
      const allowed = await allowedToLeave(session);
      if (!allowed) return;
      const sheet = await sheetFile(session, props.bothUnits, props.paper);
      const { files, missing } = await contentsOf(session);
      const archive = await packArchive(
        [
          { path: 'session.rotunda.json', content: writeSessionText(allowed) },
          ...files,
          { path: 'sheet.pdf', content: new Blob([sheet.slice().buffer]) },
          ...rigTables(session).map(({ name, head, rows }) => ({
            path: `${name}.csv`,
            content: `${csvText(head, rows)}\r\n`,
          })),
        ],
        { signal: stop.signal, onProgress: tell },
      );
      download(fileName(`${session.title} rig`, 'zip'), archive);
      if (missing.length > 0) {
        notify(`${missing.length} of its pictures and sounds are not here, so not in the archive.`);
      }
    } catch (error) {
      if (!stop.signal.aborted) notifyFailure(error);
    } finally {
      setGoing(null);
    }
  }
  return (
    <button
      className="btn btn-sm"
      onClick={() => (going ? going.stop() : void make())}
      title={going ? 'Gives the archive up' : undefined}
    >
      <Download size={15} />
      {going ? `Stop (${Math.round(100 * going.done)} %)` : 'All in one archive'}
    </button>
  );
}

/** What has to be in the van, ticked while packing. */
export function PackPage() {
  const session = useSession();
  const lines = packList(session);
  const packed = new Set(session.rig.packed);
  const done = lines.filter(({ key }) => packed.has(key)).length;
  return (
    <section aria-label="Pack list" className="flex max-w-3xl flex-col gap-3">
      <p role="status">
        {done} of {lines.length} lines packed.
      </p>
      <ul>
        {lines.map(({ key, what, count, note }) => (
          <li key={key} className="border-hairline border-b">
            <label className="flex items-baseline gap-3 py-1.5 max-sm:min-h-12 max-sm:flex-wrap">
              <input
                type="checkbox"
                className="checkbox checkbox-sm max-sm:checkbox-lg self-center"
                checked={packed.has(key)}
                onChange={(event) => {
                  const on = event.currentTarget.checked;
                  edit((draft) => {
                    const others = draft.rig.packed.filter((known) => known !== key);
                    draft.rig.packed = on ? [...others, key] : others;
                  });
                }}
              />
              <span className="w-10 text-right font-semibold">{count} ×</span>
              <span className={`flex-1 ${packed.has(key) ? 'text-muted line-through' : ''}`}>
                {what}
                <span className="sr-only">{packed.has(key) ? ', packed' : ''}</span>
              </span>
              <span className="text-muted max-sm:w-full max-sm:pl-20">{note}</span>
            </label>
          </li>
        ))}
      </ul>
      <div className="flex gap-2">
        <CsvButton name="pack" />
        {done > 0 && (
          <button
            className="btn btn-sm btn-ghost font-normal"
            onClick={() => edit((draft) => void (draft.rig.packed = []))}
          >
            Untick all
          </button>
        )}
      </div>
    </section>
  );
}

/** A length as it was measured in the hall, and what it comes to, folded or against the plan. */
function MeasuredCable(props: { what: string; folds: number; plannedM: number }) {
  const { what, folds, plannedM } = props;
  const { units } = useSession().settings;
  const [measuredM, setMeasuredM] = useState<number | null>(null);
  const off = measuredM === null ? 0 : measuredM - plannedM;
  return (
    <>
      <td className="num">
        <QuantityField
          bare
          optional
          label={`${what}, measured`}
          fieldKey={fieldKey('cable', what, 'measuredM')}
          kind={lengthKind('widthM', units)}
          value={measuredM}
          onCommit={setMeasuredM}
        />
      </td>
      <td className="num">
        {measuredM === null
          ? '—'
          : folds === 1
            ? `${off >= 0 ? '+' : '−'}${lengthText(Math.abs(off), units)}`
            : lengthText(measuredM / folds, units)}
      </td>
    </>
  );
}

/** Distances that a cable finds: the ones asked for, and the others to choose from. */
function CableSection() {
  const session = useSession();
  const { units } = session.settings;
  const asked = cablesAsked(session);
  const others = cableUses(session).filter(({ key }) => !session.rig.cablesAsked.includes(key));
  const change = (act: (keys: string[]) => string[]) =>
    edit((draft) => void (draft.rig.cablesAsked = act([...draft.rig.cablesAsked])));
  return (
    <section aria-label="Cable lengths" className="flex flex-col gap-2">
      <h2 className="pt-3 text-[16px]">With a cable instead of a tape</h2>
      {asked.length > 0 && (
        <table className="ledger-table w-full" aria-label="Cable lengths">
          <thead>
            <tr>
              <th>From to</th>
              <th className="num">Cable</th>
              <th className="num">Folded</th>
              <th className="num">Measured</th>
              <th className="num">then</th>
              <th>How</th>
              <th>
                <span className="sr-only">Leave out</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {asked.map(({ key, what, cableM, folds, foldedM, how }) => (
              <tr key={key}>
                <th scope="row">{what}</th>
                <td className="num">{lengthText(cableM, units)}</td>
                <td className="num">
                  {folds === 1 ? '—' : `in ${folds}: ${lengthText(foldedM, units)}`}
                </td>
                <MeasuredCable what={what} folds={folds} plannedM={cableM} />
                <td>{how}</td>
                <td>
                  <button
                    className="btn btn-ghost btn-xs"
                    aria-label={`Leave out ${what}`}
                    onClick={() => change((keys) => keys.filter((known) => known !== key))}
                  >
                    ×
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {others.length === 0 && asked.length === 0 ? (
        <p className="text-muted">No two distances of this plan are equal or multiples.</p>
      ) : (
        others.length > 0 && (
          <div className="no-print w-96">
            <ChoiceField
              label="Put on the sheet"
              value=""
              options={[
                { value: '', label: `one of ${others.length} distances …` },
                ...others.map(({ key, what, folds }) => ({
                  value: key,
                  label: folds === 1 ? what : `${what}, folded in ${folds}`,
                })),
              ]}
              onChange={(key) => key !== '' && change((keys) => [...keys, key])}
            />
          </div>
        )
      )}
      {asked.length > 0 && (
        <div>
          <CsvButton name="cables" />
        </div>
      )}
    </section>
  );
}

/** The build in order with times, and lengths of cable that save the tape. */
export function BuildPage() {
  const session = useSession();
  const steps = buildOrder(session);
  const missing = completeness(session);
  const last = steps[steps.length - 1];
  return (
    <section aria-label="Build" className="flex max-w-4xl flex-col gap-3">
      <h2 className="text-[16px]">Order</h2>
      <ol>
        {steps.map(({ what, minutes, fromMin }) => (
          <li key={what} className="border-hairline flex gap-4 border-b py-1.5">
            <span className="w-12 font-semibold">{timeText(fromMin)}</span>
            <span className="flex-1">{what}</span>
            <span className="text-muted">{minutes} min</span>
          </li>
        ))}
      </ol>
      {last && <Readout label="Ready at" number={timeText(last.fromMin + last.minutes)} />}
      <div>
        <CsvButton name="build" />
      </div>
      <CableSection />
      <h2 className="pt-3 text-[16px]">Can it be built again?</h2>
      {missing.length === 0 ? (
        <p>Yes: everything is noted.</p>
      ) : (
        <p>
          Not yet. Missing: {missing.slice(0, 8).join('; ')}
          {missing.length > 8 && `; and ${missing.length - 8} more`}.
        </p>
      )}
    </section>
  );
}
