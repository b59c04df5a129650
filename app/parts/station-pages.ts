/** The pages of every station by name, with what else they are looked for by. */

export const BRIEF_PAGES = [
  { id: 'job', name: 'The job', words: 'date programme people notes' },
  {
    id: 'hall',
    name: 'The hall',
    words: 'reverberation temperature stage size surfaces tape points',
  },
  { id: 'picture', name: 'The picture', words: 'intent mono taste width bands' },
  { id: 'kit', name: 'The kit', words: 'microphones stands bars' },
  { id: 'day', name: 'The day', words: 'timetable breaks storage' },
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
    words: 'spacing angle tolerance standard',
  },
  { id: 'spacing-angle', name: 'Spacing and angle', group: DESIGN, words: 'trade map' },
  { id: 'solve', name: 'Solve for angle', group: DESIGN, words: 'recording angle wanted' },
  { id: 'mid-side', name: 'Mid-side', group: DESIGN, words: 'decode width' },
  { id: 'aim', name: 'Aim', group: DESIGN, words: 'axes land tilt' },
  {
    id: 'multichannel',
    name: 'Trees and surround',
    group: MORE,
    words: 'multichannel five ring height boundary',
  },
  { id: 'overheads', name: 'Overheads', group: MORE, words: 'equal distance' },
  {
    id: 'response',
    name: 'Response',
    group: BEHAVIOUR,
    words: 'localisation curve level and time',
  },
  { id: 'patterns', name: 'Patterns', group: BEHAVIOUR, words: 'what if polar' },
  { id: 'compare', name: 'Compare', group: CHOOSE, words: 'candidates' },
  { id: 'recommend', name: 'Recommend', group: CHOOSE, words: 'advice proposal' },
] as const;

export const CHECKS_PAGES = [
  { id: 'findings', name: 'Findings', words: 'faults cautions notes' },
  { id: 'arrivals', name: 'Arrivals', words: 'delay spot leads' },
  { id: 'spill', name: 'Spill', words: '3:1 bleed' },
  { id: 'matrix', name: 'Matrix', words: 'every piece every microphone distance level null' },
  { id: 'seats', name: 'Seats', words: 'left right polarity mono circle' },
  { id: 'mix', name: 'Mix', words: 'echo pull' },
  { id: 'mono', name: 'Mono', words: 'comb null' },
  { id: 'stands', name: 'Stands', words: 'tip over reach clash boom' },
  { id: 'safety', name: 'Safety', words: 'cautions acknowledge' },
] as const;

export const RIG_PAGES = [
  { id: 'positions', name: 'Positions', words: 'tapes sheet' },
  {
    id: 'channels',
    name: 'Channels',
    words: 'pan gain delay polarity phantom pad inputs loudspeaker',
  },
  { id: 'pack', name: 'Pack', words: 'cables weights' },
  { id: 'build', name: 'Build', words: 'order cable method' },
  { id: 'built', name: 'As built', words: 'measured as built' },
] as const;

export const SOUNDCHECK_PAGES = [
  { id: 'diary', name: 'Diary', words: 'options tried changed why kept dropped adopt' },
  { id: 'takes', name: 'Takes', words: 'log slate number lid temperature performance comment' },
  { id: 'compare', name: 'Compare', words: 'blind vote listen loudness letters preference' },
  { id: 'symptom', name: 'From a symptom', words: 'move remedy hole far harsh mono thin try' },
  { id: 'blend', name: 'Blend', words: 'layers faders spots ambience correlation reverb' },
  { id: 'sweep', name: 'Sweep', words: 'spot moments mark rating moving microphone head' },
  { id: 'report', name: 'Report', words: 'print PDF CSV JSON who chose' },
] as const;

export const BENCH_PAGES = [
  {
    id: 'said',
    name: 'What it says',
    words: 'clips peak headroom hum silent doubled offset loudness',
  },
  { id: 'levels', name: 'Levels and noise', words: 'true peak octave floor loudness meters' },
  { id: 'stereo', name: 'Stereo', words: 'correlation plot image mono loss width' },
  { id: 'delays', name: 'Delays', words: 'polarity pair samples swapped left right' },
  { id: 'room', name: 'Room', words: 'decay clap balloon T20 T30 EDT' },
  {
    id: 'against',
    name: 'Against the plan',
    words: 'verdict planned measured departs cause as built',
  },
  { id: 'claps', name: 'Claps', words: 'as built bar position aim spacing angle sensitivity' },
  { id: 'channels', name: 'Channels', words: 'bind inputs names taps take order' },
  { id: 'mid-side', name: 'Mid-side', words: 'decode decoder audit copy high-pass raw' },
  { id: 'spots', name: 'Spots', words: 'align layers comb delay share blend' },
  { id: 'microphones', name: 'Microphones', words: 'match trim symmetry figure-eight noise' },
  { id: 'tone', name: 'Tone', words: 'peaks notes resonance filters compression reverb dry level' },
  { id: 'export', name: 'Export', words: 'write WAV file shift trim fold dither rate' },
  { id: 'kept', name: 'Kept', words: 'measurements report print PDF CSV' },
] as const;
