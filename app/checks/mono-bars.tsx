import type { MonoBand } from '../../core/acoustics';
import { clamp, formatNumber, formatSigned } from '../../core/units';

/** Third octaves of the mono sum as bars about 0 dB. */
export function MonoBars({ name, bands }: { name: string; bands: readonly MonoBand[] }) {
  return (
    <figure>
      <figcaption>{name}: mono sum against both channels, by third octave</figcaption>
      <svg viewBox="-44 0 528 96" className="w-full max-w-xl" aria-hidden="true">
        <line x1={0} x2={460} y1={30} y2={30} stroke="var(--muted)" />
        {[4, 0, -12].map((db) => (
          <text
            key={db}
            x={-8}
            y={34 - db * 4.2}
            textAnchor="end"
            fontSize={11}
            fill="var(--muted)"
          >
            {formatSigned(db, 0)} dB
          </text>
        ))}
        {bands.map(({ frequencyHz, levelDb }, i) => {
          const height = clamp(levelDb, -12, 4) * 4.2;
          return (
            <g key={frequencyHz}>
              <rect
                x={4 + i * 21.6}
                width={16}
                y={height > 0 ? 30 - height : 30}
                height={Math.abs(height)}
                fill={levelDb < -6 ? 'var(--color-error)' : 'var(--color-primary)'}
              />
              {i % 5 === 0 && (
                <text
                  x={12 + i * 21.6}
                  y={92}
                  textAnchor="middle"
                  fontSize={11}
                  fill="var(--muted)"
                >
                  {formatNumber(Number(frequencyHz.toPrecision(2)), 0)} Hz
                </text>
              )}
            </g>
          );
        })}
      </svg>
      <p className="sr-only">
        {bands
          .map((b) => `${formatNumber(b.frequencyHz, 0)} Hz ${formatSigned(b.levelDb, 1)} dB`)
          .join(', ')}
      </p>
    </figure>
  );
}
