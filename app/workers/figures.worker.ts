import '../zod-config';
import { expose } from 'comlink';
import type { Pattern } from '../../core/acoustics';
import { setUpTolerance, type ToleranceResult } from '../../core/analysis';
import {
  solveRecordingAngle,
  tradeMap,
  type Solution,
  type TradeMap,
  type Wanted,
} from '../../core/localisation';
import type { Session } from '../../core/session';

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
