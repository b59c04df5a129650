import { memo } from 'react';
import { NavLink, useParams } from 'react-router';
import { useFindings } from '../figures/figures';
import { stationPath, STATIONS } from '../stations';

/** The stations down the left edge, with a count where Checks has findings. */
export function Rail() {
  const { id = '' } = useParams();
  return <RailMarks id={id} findings={useFindings().findings.length} />;
}

/** The marks of the stations in the table. */
export const RailMarks = memo(function RailMarks({
  id,
  findings,
}: {
  id: string;
  findings: number;
}) {
  return (
    <nav
      aria-label="Stations"
      className="no-print border-hairline bg-base-200 flex w-[72px] shrink-0 flex-col items-center gap-4 overflow-y-auto border-r pt-4 max-sm:w-full max-sm:flex-row max-sm:justify-around max-sm:overflow-visible max-sm:border-r-0 max-sm:border-b max-sm:py-1.5 [@media(max-height:480px)]:gap-1"
    >
      {STATIONS.map(({ mark, path, name }) => (
        <NavLink key={path} to={stationPath(id, path)} className="group text-center">
          {({ isActive }) => (
            <>
              <span
                className={`mark relative mx-auto flex size-[26px] items-center justify-center border-[1.5px] text-[14px] ${
                  isActive
                    ? 'bg-neutral text-neutral-content border-neutral'
                    : 'border-muted group-hover:border-base-content'
                }`}
              >
                {mark}
                {path === 'checks' && findings > 0 && (
                  <span className="bg-warning text-warning-content absolute -top-2 -right-2.5 flex size-4 items-center justify-center rounded-full text-[10px]">
                    {findings}
                    <span className="sr-only"> findings</span>
                  </span>
                )}
              </span>
              <span
                // On a phone there is room for one name beside nine letters.
                className={`text-[11.5px] max-sm:text-[10.5px] ${isActive ? 'text-base-content font-semibold' : 'text-muted max-[460px]:sr-only'}`}
              >
                {name}
              </span>
            </>
          )}
        </NavLink>
      ))}
    </nav>
  );
});
