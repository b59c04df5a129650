import { spillMatrix, threeToOne } from '../../core/analysis';
import { formatNumber, formatSigned } from '../../core/units';
import { FormulaLink } from '../parts/formula-link';
import { useSession } from '../document/use-session';
import { SpillTable } from './spill-table';

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
      <SpillTable microphones={microphones} />
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
