import { endFallOff, instrumentOf, sectionFigures } from '../../../core/ensembles';
import type { Section } from '../../../core/session';
import { formatNumber, formatSigned, lengthText, speedOfSound } from '../../../core/units';
import { Readout } from '../../parts/fields';
import { useFigures } from '../../figures/figures';
import { useSession } from '../../document/use-session';

/** What the figures of a section come to, as the active array hears it. */
export function SectionReadouts({ section }: { section: Section }) {
  const { settings, venue } = useSession();
  const { array } = useFigures();
  const { frontRadiusM, perRow, widthM } = sectionFigures(section);
  const sounding = instrumentOf(section.kind)?.heightM ?? 1.2;
  const speed = speedOfSound(venue.temperatureC);
  const fall = array && endFallOff(section, array, sounding, speed);
  const straight = array && endFallOff({ ...section, shape: 'rows' }, array, sounding, speed);
  const text = (value: typeof fall) =>
    value ? `${formatSigned(value.levelDb, 1)} dB, ${formatNumber(value.delayMs, 1)} ms` : '—';
  const { units } = settings;
  return (
    <>
      {frontRadiusM !== null && (
        <Readout label="Front radius" number={lengthText(frontRadiusM, units)} />
      )}
      <Readout label="Players per row" number={perRow.join(' + ') || '0'} />
      <Readout label="Widest apart" number={lengthText(widthM, units)} />
      {array && (
        <>
          <Readout label={`Ends at ${array.name}`} number={text(fall)} />
          {section.shape === 'arc' && (
            <Readout label="The same as a straight row" number={text(straight)} />
          )}
        </>
      )}
    </>
  );
}
