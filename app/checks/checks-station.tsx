import { CircleCheck, Info, OctagonAlert, TriangleAlert } from 'lucide-react';
import { Link } from 'react-router';
import type { Finding, Severity } from '../../core/analysis';
import { formatNumber } from '../../core/units';
import { useFigures } from '../state/figures';
import { hover, select } from '../state/ui-store';
import { useSession } from '../state/use-session';

const SEVERITIES: Readonly<Record<Severity, { word: string; icon: typeof Info; tone: string }>> = {
  fault: { word: 'Fault', icon: OctagonAlert, tone: 'text-error' },
  caution: { word: 'Caution', icon: TriangleAlert, tone: 'text-warning' },
  note: { word: 'Note', icon: Info, tone: 'text-muted' },
};

/** "halfDeg" → "half, °" */
function figureName(key: string): string {
  const words = key
    .replace(/Deg$/, ', °')
    .replace(/M$/, ', m')
    .replace(/Db$/, ', dB')
    .replace(/([a-z])([A-Z])/g, '$1 $2');
  return words.toLowerCase();
}

function FindingItem({ finding }: { finding: Finding }) {
  const { id, sources } = useSession();
  const { word, icon: Icon, tone } = SEVERITIES[finding.severity];
  const players = sources.filter((source) => finding.sourceIds.includes(source.id));
  return (
    <li className="border-hairline border-b py-3">
      <p className="flex items-start gap-3">
        <Icon size={18} className={`${tone} mt-0.5 shrink-0`} aria-hidden="true" />
        <span className={`${tone} w-16 shrink-0 font-semibold`}>{word}</span>
        <span className="flex-1">{finding.message}</span>
      </p>
      <div className="text-muted flex flex-wrap gap-x-6 pt-1 pl-[92px] text-[12.5px]">
        {Object.entries(finding.figures).map(([key, value]) => (
          <span key={key}>
            {figureName(key)}{' '}
            <strong>{formatNumber(value, Number.isInteger(value) ? 0 : 1)}</strong>
          </span>
        ))}
        {players.map((source) => (
          <Link
            key={source.id}
            to={`/session/${id}/floor`}
            className="underline underline-offset-2"
            onPointerEnter={() => hover(source.id)}
            onPointerLeave={() => hover(null)}
            onClick={() => {
              // Leaving the page clears the selection of the old one first.
              setTimeout(() => select({ kind: 'source', id: source.id }));
            }}
          >
            {source.name}
          </Link>
        ))}
      </div>
    </li>
  );
}

/** What can be known before a microphone is up. */
export function ChecksStation() {
  const { sources } = useSession();
  const { findings, array, missing } = useFigures();
  const count = findings.length;
  return (
    <main aria-label="Checks" className="bg-base-100 h-full overflow-y-auto px-6 py-4" tabIndex={0}>
      <h2 className="text-[17px]">
        {count === 0 ? 'Checks' : `${count} ${count === 1 ? 'finding' : 'findings'}`}
        {array ? ` at ${array.name}` : ''}
      </h2>
      <p className="text-muted pt-1 pb-2">
        Checked: recording angle, antiphase, reversed players, capsules and players at one point.
      </p>
      {missing !== null && <p className="py-3">Not checked: {missing}</p>}
      {missing === null && sources.length === 0 && (
        <p className="py-3">No players yet, so there is nothing to check. Add them on the Floor.</p>
      )}
      {missing === null && sources.length > 0 && count === 0 && (
        <p className="text-success flex items-center gap-2 py-3">
          <CircleCheck size={18} aria-hidden="true" /> Everything that is checked passes.
        </p>
      )}
      <ul className="max-w-4xl">
        {findings.map((finding) => (
          <FindingItem key={`${finding.arrayId}-${finding.code}`} finding={finding} />
        ))}
      </ul>
    </main>
  );
}
