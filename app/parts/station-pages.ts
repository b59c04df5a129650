/** The pages of every station by name. */

export const BRIEF_PAGES = [
  { id: 'job', name: 'The job' },
  {
    id: 'hall',
    name: 'The hall',
  },
  { id: 'picture', name: 'The picture' },
  { id: 'kit', name: 'The kit' },
  { id: 'day', name: 'The day' },
] as const;

const DESIGN = 'Design';
const MORE = 'More than a pair';
const BEHAVIOUR = 'Behaviour';
const CHOOSE = 'Choose';

export const ARRAY_PAGES = [
  {
    id: 'pair-geometry',
    name: 'Pair geometry',
    group: DESIGN,
  },
  { id: 'spacing-angle', name: 'Spacing and angle', group: DESIGN },
  { id: 'solve', name: 'Solve for angle', group: DESIGN },
  { id: 'mid-side', name: 'Mid-side', group: DESIGN },
  { id: 'aim', name: 'Aim', group: DESIGN },
  {
    id: 'multichannel',
    name: 'Trees and surround',
    group: MORE,
  },
  { id: 'overheads', name: 'Overheads', group: MORE },
  {
    id: 'response',
    name: 'Response',
    group: BEHAVIOUR,
  },
  { id: 'patterns', name: 'Patterns', group: BEHAVIOUR },
  { id: 'compare', name: 'Compare', group: CHOOSE },
  { id: 'recommend', name: 'Recommend', group: CHOOSE },
] as const;

export const CHECKS_PAGES = [
  { id: 'findings', name: 'Findings' },
  { id: 'arrivals', name: 'Arrivals' },
  { id: 'spill', name: 'Spill' },
  { id: 'matrix', name: 'Matrix' },
  { id: 'seats', name: 'Seats' },
  { id: 'mix', name: 'Mix' },
  { id: 'mono', name: 'Mono' },
  { id: 'stands', name: 'Stands' },
  { id: 'safety', name: 'Safety' },
] as const;

export const RIG_PAGES = [
  { id: 'positions', name: 'Positions' },
  {
    id: 'channels',
    name: 'Channels',
  },
  { id: 'pack', name: 'Pack' },
  { id: 'build', name: 'Build' },
  { id: 'built', name: 'As built' },
  { id: 'stage', name: 'Stage' },
] as const;

export const SOUNDCHECK_PAGES = [
  { id: 'diary', name: 'Diary' },
  { id: 'takes', name: 'Takes' },
  { id: 'compare', name: 'Compare' },
  { id: 'symptom', name: 'From a symptom' },
  { id: 'blend', name: 'Blend' },
  { id: 'sweep', name: 'Sweep' },
  { id: 'report', name: 'Report' },
] as const;

export const BENCH_PAGES = [
  {
    id: 'said',
    name: 'What it says',
  },
  { id: 'levels', name: 'Levels and noise' },
  { id: 'stereo', name: 'Stereo' },
  { id: 'delays', name: 'Delays' },
  { id: 'room', name: 'Room' },
  {
    id: 'against',
    name: 'Against the plan',
  },
  { id: 'claps', name: 'Claps' },
  { id: 'channels', name: 'Channels' },
  { id: 'mid-side', name: 'Mid-side' },
  { id: 'spots', name: 'Spots' },
  { id: 'microphones', name: 'Microphones' },
  { id: 'tone', name: 'Tone' },
  { id: 'export', name: 'Export' },
  { id: 'kept', name: 'Kept' },
] as const;

export const RECALL_PAGES = [
  { id: 'find', name: 'Find' },
  { id: 'marks', name: 'Marks' },
  { id: 'listening', name: 'Listening spots' },
  { id: 'pieces', name: 'Kept pieces' },
  { id: 'complete', name: 'What is missing' },
  { id: 'difference', name: 'Difference' },
  { id: 'copies', name: 'Copies' },
] as const;

export const DRILL_PAGES = [
  { id: 'due', name: 'Due now' },
  { id: 'ear', name: 'Ear' },
  { id: 'model', name: 'Your own model' },
  { id: 'head', name: 'Head' },
  { id: 'plan', name: 'From your plan' },
  { id: 'results', name: 'Results' },
] as const;
