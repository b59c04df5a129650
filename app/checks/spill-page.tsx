import { microphoneName } from '../../core/arrays';
import { spillMatrix, threeToOne } from '../../core/analysis';
import { formatNumber, formatSigned, clamp } from '../../core/units';
import { FormulaLink } from '../parts/formula-link';
import { hover } from '../view/choice';
import { useSession } from '../document/use-session';

/** Each player in each microphone, and the rule of three to one beside the real spill. */
export function SpillPage() {
  const session = useSession();
  const microphones = spillMatrix(session);
  const pairs = threeToOne(session);
  const spots = session.arrays.filter(({ enabled, role }) => enabled && role === 'spot');
  const nameOf = new Map(session.arrays.map(({ id, name }) => [id, name]));
  if (session.sources.length === 0) return <p>No players yet: put them on the Floor first.</p>;
  return (
    <section aria-label="Spill" className="flex flex-col gap-3">
      <p className="text-muted">
        Level of each player against the one that the microphone is for, in dB; darker is louder.
      </p>
      <div className="overflow-x-auto">
        <table className="ledger-table" aria-label="Spill matrix">
          <thead>
            <tr>
              <th>Microphone</th>
              <th>is for</th>
              {session.sources.map(({ id, name }) => (
                <th
                  key={id}
                  className="num"
                  onPointerEnter={() => hover(id)}
                  onPointerLeave={() => hover(null)}
                >
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {microphones.map((mic) => (
              <tr key={`${mic.arrayId}${mic.label}`}>
                <th scope="row" className="whitespace-nowrap">
                  {microphoneName(mic.arrayName, mic.label)}
                </th>
                <td>{session.sources.find(({ id }) => id === mic.ownSourceId)?.name ?? '—'}</td>
                {session.sources.map(({ id }) => {
                  const spill = mic.spillDb[id] ?? null;
                  const dark = spill === null ? 0 : clamp(1 + spill / 30, 0, 1);
                  return (
                    <td
                      key={id}
                      className={`num ${id === mic.ownSourceId ? 'font-semibold' : ''}`}
                      style={{
                        background: `color-mix(in srgb, var(--color-primary) ${Math.round(dark * 30)}%, transparent)`,
                      }}
                    >
                      {id === mic.ownSourceId
                        ? 'own'
                        : spill === null
                          ? '—'
                          : formatSigned(spill, 0)}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <h2 className="pt-2 text-[16px]">Three to one</h2>
      <p className="text-muted">
        For separate microphones on separate players that are mixed: three times the working
        distance apart, the spill is about 9.5 dB down. It says nothing of patterns, levels or pans,
        and it is no rule for a stereo pair, whose mono sum is checked directly.{' '}
        <FormulaLink to="spill-and-3-to-1">Formula</FormulaLink>
      </p>
      {pairs.length === 0 ? (
        <p>
          {spots.length < 2
            ? 'The rule does not apply here: there are not two separate microphones for separate players.'
            : 'The rule does not apply here: the separate microphones are for one and the same player.'}
        </p>
      ) : (
        <table className="ledger-table max-w-3xl" aria-label="Three to one">
          <thead>
            <tr>
              <th>Microphones</th>
              <th className="num">ratio</th>
              <th>rule</th>
              <th className="num">real spill</th>
              <th className="num">ripple</th>
            </tr>
          </thead>
          <tbody>
            {pairs.map(({ firstArrayId, secondArrayId, ratio, spillDb, rippleDb }) => (
              <tr key={firstArrayId + secondArrayId}>
                <th scope="row">
                  {nameOf.get(firstArrayId)} and {nameOf.get(secondArrayId)}
                </th>
                <td className="num">{formatNumber(ratio, 1)} : 1</td>
                <td className={ratio < 3 ? 'text-warning font-semibold' : ''}>
                  {ratio >= 3 ? 'kept' : 'not kept'}
                </td>
                <td className="num">{formatSigned(spillDb, 1)} dB</td>
                <td className="num">{formatNumber(rippleDb, 1)} dB</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
