import { CartesianGrid, Line, LineChart, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import type { SideCopy } from '../../core/audio/measure/mid-side';
import { formatSigned } from '../../core/units';
import { AXIS, axisTitle, GRID, MARGIN } from '../charts/axes';
import { ChartFrame } from '../charts/chart-frame';
import { HEIGHT, hzText } from './over-time';

interface CopyProps {
  copy: SideCopy;
  name: string;
  mend: () => void;
}

/** A side that was copied and turned over by hand: whether it is one, and what it leaves in mono. */
export function CopyAudit({ copy, name, mend }: CopyProps) {
  const points = copy.leftInMono.flatMap(({ hz, db }) =>
    db === null ? [] : [{ name: hzText(hz), hz, db }],
  );
  return (
    <section aria-label="The copy">
      <h2 className="pb-1 text-[15px]">The copy of the side</h2>
      {copy.faults.length === 0 ? (
        <p>{name} is the side turned over, to the sample: nothing of it is left in mono.</p>
      ) : (
        <ul aria-label="Faults of the copy">
          {copy.faults.map((fault) => (
            <li key={fault}>{fault[0]?.toUpperCase() + fault.slice(1)}.</li>
          ))}
        </ul>
      )}
      {copy.is === 'a copy' && copy.faults.length > 0 && (
        <button className="btn btn-sm mt-2" onClick={mend}>
          Mend {name}
        </button>
      )}
      {copy.is === 'a copy' && copy.faults.length > 0 && (
        <ChartFrame
          title="Left of the side in mono"
          about={`${formatSigned(copy.leftInMonoDb ?? 0, 1)} dB of all of it, against the side.`}
          header={['frequency Hz', 'left dB']}
          rows={points.map(({ hz, db }) => [hz, db])}
        >
          <ResponsiveContainer width="100%" height={HEIGHT}>
            <LineChart data={points} margin={MARGIN} accessibilityLayer={false}>
              <CartesianGrid {...GRID} vertical={false} />
              <XAxis
                dataKey="name"
                label={axisTitle('frequency, Hz', 'bottom')}
                {...AXIS}
                interval={2}
              />
              <YAxis
                domain={[-60, 10]}
                ticks={[-60, -40, -20, 0]}
                allowDataOverflow
                label={axisTitle('dB of the side', 'left')}
                {...AXIS}
              />
              <Line
                dataKey="db"
                dot={false}
                isAnimationActive={false}
                stroke="var(--color-base-content)"
              />
            </LineChart>
          </ResponsiveContainer>
        </ChartFrame>
      )}
    </section>
  );
}
