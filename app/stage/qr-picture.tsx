import { create } from 'qrcode';
import { useMemo } from 'react';

/** Light squares around it, as readers want them. */
const MARGIN = 4;

/** An address as a QR picture: dark on light in every theme, as readers want it. */
export function QrPicture({ text }: { text: string }) {
  const { size, path } = useMemo(() => {
    const { modules } = create(text, { errorCorrectionLevel: 'M' });
    const squares: string[] = [];
    for (let y = 0; y < modules.size; y++) {
      for (let x = 0; x < modules.size; x++) {
        if (modules.get(y, x)) squares.push(`M${x + MARGIN} ${y + MARGIN}h1v1h-1z`);
      }
    }
    return { size: modules.size + 2 * MARGIN, path: squares.join('') };
  }, [text]);
  return (
    <svg
      viewBox={`0 0 ${size} ${size}`}
      role="img"
      aria-label={`QR picture of ${text}`}
      className="size-44"
      shapeRendering="crispEdges"
    >
      <rect width={size} height={size} fill="#ffffff" />
      <path d={path} fill="#000000" />
    </svg>
  );
}
