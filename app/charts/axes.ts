/** The look that all charts share. */
const TICK = { fontSize: 11.5, fill: 'var(--muted)' } as const;
/** Every tick of the few there are is drawn: measuring which of them fit holds the page up. */
export const AXIS = { tick: TICK, stroke: 'var(--muted)', tickLine: false, interval: 0 } as const;
/** Room for the axis titles. */
export const MARGIN = { top: 8, right: 16, bottom: 18, left: 6 } as const;
export const GRID = { stroke: 'var(--hairline)' } as const;

/** An axis title beside its ticks. */
export const axisTitle = (value: string, side: 'bottom' | 'left') => ({
  value,
  position: side === 'bottom' ? ('insideBottom' as const) : ('insideLeft' as const),
  angle: side === 'left' ? -90 : 0,
  offset: side === 'bottom' ? -4 : 12,
  style: { fontSize: 11.5, fill: 'var(--muted)', textAnchor: 'middle' as const },
});

/** Lines of the models differ by dash as well as by hue, in their order. */
const MODEL_LINES = [
  { stroke: 'var(--color-primary)', strokeDasharray: 'none' },
  { stroke: 'var(--color-base-content)', strokeDasharray: 'none' },
  { stroke: 'var(--hue-2)', strokeDasharray: '6 3' },
  { stroke: 'var(--hue-3)', strokeDasharray: '2 3' },
  { stroke: 'var(--hue-4)', strokeDasharray: '8 3 2 3' },
  { stroke: 'var(--hue-1)', strokeDasharray: '12 4' },
] as const;

/** The line of the model that stands so far down the list of all. */
export const modelLine = (index: number) => MODEL_LINES[index % MODEL_LINES.length];
