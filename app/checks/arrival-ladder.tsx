import type { MicrophoneArrival } from '../../core/analysis';

/** Arrivals over time, the echo limit marked. */
export function ArrivalLadder({
  arrivals,
  limitMs,
}: {
  arrivals: readonly MicrophoneArrival[];
  limitMs: number;
}) {
  const width = 620;
  const last = Math.max(40, ...arrivals.map(({ arrivalMs }) => arrivalMs)) + 4;
  const first = arrivals.find(({ afterFirstMs }) => Math.abs(afterFirstMs) < 1e-9)?.arrivalMs ?? 0;
  const x = (ms: number) => 110 + (ms / last) * (width - 130);
  const height = arrivals.length * 22 + 30;
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="w-full max-w-3xl" aria-hidden="true">
      <rect
        x={x(first + limitMs)}
        y={0}
        width={Math.max(0, width - x(first + limitMs))}
        height={height - 20}
        fill="var(--color-warning)"
        fillOpacity={0.1}
      />
      <text x={x(first + limitMs) + 4} y={12} fontSize={11.5} fill="var(--color-warning)">
        {limitMs} ms
      </text>
      {arrivals.map((arrival, i) => {
        const y = 24 + i * 22;
        const loud = Math.max(0.15, 1 - arrival.belowLoudestDb / 30);
        return (
          <g key={`${arrival.arrayId}${arrival.label}`}>
            <text x={104} y={y + 4} textAnchor="end" fontSize={12} fill="var(--color-base-content)">
              {arrival.arrayName.length > 13
                ? `${arrival.arrayName.slice(0, 12)}…`
                : arrival.arrayName}{' '}
              {arrival.label}
            </text>
            <line x1={x(0)} x2={width - 20} y1={y} y2={y} stroke="var(--hairline)" />
            <rect
              x={x(arrival.arrivalMs) - 2}
              y={y - 9 * loud}
              width={4}
              height={18 * loud}
              fill={arrival.echo ? 'var(--color-warning)' : 'var(--color-primary)'}
            />
          </g>
        );
      })}
      {[0, 10, 20, 30, 40, 60, 80, 100]
        .filter((ms) => ms <= last)
        .map((ms) => (
          <text
            key={ms}
            x={x(ms)}
            y={height - 4}
            textAnchor="middle"
            fontSize={11.5}
            fill="var(--muted)"
          >
            {ms} ms
          </text>
        ))}
    </svg>
  );
}
