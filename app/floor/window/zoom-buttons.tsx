/** Zoom at the drawing's corner, for those without a wheel. */
export function ZoomButtons(props: { zoom: (factor: number) => void; showAll: () => void }) {
  const { zoom, showAll } = props;
  return (
    <div className="absolute right-3 bottom-3 flex">
      <button className="btn btn-sm btn-ghost" onClick={() => zoom(0.8)} aria-label="Zoom out">
        −
      </button>
      <button className="btn btn-sm btn-ghost" onClick={showAll}>
        Show all
      </button>
      <button className="btn btn-sm btn-ghost" onClick={() => zoom(1.25)} aria-label="Zoom in">
        +
      </button>
    </div>
  );
}
