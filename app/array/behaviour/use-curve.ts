import { useMemo } from 'react';
import { contextOf, isApart } from '../../../core/analysis';
import {
  farField,
  inPlace,
  localisationCurve,
  prepareArray,
  type CurvePoint,
} from '../../../core/localisation';
import type { MicArray } from '../../../core/session';
import { useSession } from '../../document/use-session';
import { useFigures } from '../../figures/figures';

/** The localisation curve of an array, at the distance of its players where there are any. */
export function useCurve(array: MicArray, limitDeg: number, stepDeg: number): CurvePoint[] {
  const { venue, settings } = useSession();
  const ensemble = useFigures().figures?.ensemble;
  return useMemo(() => {
    const { speed } = contextOf({ venue, settings });
    const ready = prepareArray(array, array.mix.capsules);
    const cues =
      ensemble && isApart(ready, ensemble)
        ? inPlace(ready, ensemble.distanceM, ensemble.heightM, speed)
        : farField(ready, speed);
    return localisationCurve(ready, cues, limitDeg, stepDeg, settings.own);
  }, [venue, settings, array, ensemble, limitDeg, stepDeg]);
}
