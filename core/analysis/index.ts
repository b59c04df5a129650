export * from './alteration';
export * from './analyse';
export * from './analyser';
export * from './array-figures';
export * from '../prepare/context';
export * from './correlation';
export * from './edges-at';
export * from './criteria';
export * from './judge';
export * from './findings';
export * from './arrivals';
export * from './solved';
export * from './spill';
export * from './mix';
export * from './mono-table';
export * from './nearest-mid-side';
export * from './pair-fields';
export * from './picture-text';
export * from './reach-matrix';
export * from '../hall';
export * from './room';
export * from './shadows';
export * from './seat-table';
export * from './source-figures';
export * from './summary';
export * from './sweep';
export * from './tolerance';
export {
  customaryStretches,
  recommend,
  recommendInSteps,
  type CustomaryStretch,
  type Recommendation,
  PART_WORDS,
  type RecommendationResult,
} from './recommend';
export * from './focus';
export * from './gain';
export * from './holding';
export * from './intent';
export * from './layers';
