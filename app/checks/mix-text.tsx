import type { MixFigures } from '../../core/analysis';
import { imageIn } from '../../core/localisation';
import type { ModelId } from '../../core/localisation';
import { formatNumber, formatSigned, shiftText } from '../../core/units';

/** An array that makes less of a place than this is not named, percent. */
const LEAST_PCT = 1;

/** "Main pair 72 %, Oboe spot 28 %, echo: Rear pair 62 ms later, −4 dB". */
export function pullText({ pulls, echoes }: MixFigures): string {
  const named = pulls
    .filter(({ pct }, i) => i === 0 || pct >= LEAST_PCT)
    .map(({ name, pct }) => `${name} ${formatNumber(pct, 0)} %`);
  const late = echoes.map(
    ({ name, delayMs, levelDb }) =>
      `echo: ${name} ${formatNumber(delayMs, 0)} ms later, ${formatSigned(levelDb, 0)} dB`,
  );
  return [...named, ...late].join(', ');
}

/** Where a player is heard in the mix, in the session's model and as far as the models differ. */
export function ImageText({ figures, model }: { figures: MixFigures; model: ModelId }) {
  const place = imageIn(figures, model);
  if (!place || !figures.image) return <>no stable image: antiphase</>;
  const shifts = Object.values(figures.image).map(({ shift }) => shift);
  const [least, most] = [Math.min(...shifts), Math.max(...shifts)];
  return (
    <>
      <strong>{shiftText(place.shift)}</strong>
      {most - least > 0.005 && ` (${shiftText(least)} to ${shiftText(most)} in the models)`}
      {figures.antiphasePct > 1 && `, ${formatNumber(figures.antiphasePct, 0)} % in antiphase`}
    </>
  );
}
