import { expose } from 'comlink';
import type { Pattern } from '../../core/acoustics/patterns';
import { setUpTolerance, type ToleranceResult } from '../../core/analysis/tolerance';
import { solveRecordingAngle, type Solution, type Wanted } from '../../core/localisation/solve';
import { tradeMap, type TradeMap } from '../../core/localisation/trade-map';
import type { Session } from '../../core/session/schema';

/** What takes longer than a frame: asked again and again while the page is open. */
const api = {
  tradeMap: (pattern: Pattern, spacingsM: number[], anglesDeg: number[], speed: number): TradeMap =>
    tradeMap(pattern, spacingsM, anglesDeg, speed),
  solve: (wanted: Wanted): Solution[] => solveRecordingAngle(wanted),
  tolerance: (session: Session, arrayId: string): ToleranceResult | null => {
    const array = session.arrays.find(({ id }) => id === arrayId);
    return array ? setUpTolerance(session, array) : null;
  },
};

export type FiguresWorker = typeof api;

expose(api);
