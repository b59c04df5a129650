import type { Pattern } from '../../core/acoustics/patterns';
import type { Finding } from '../../core/analysis/findings/finding';
import type { WaysOut } from '../../core/analysis/findings/trials';
import type { FocusRow } from '../../core/analysis/focus';
import type { Judgement } from '../../core/analysis/judge';
import type { MixFigures } from '../../core/analysis/mix';
import type { MonoRow } from '../../core/analysis/mono-table';
import type { RecommendationResult } from '../../core/analysis/recommend/recommend';
import type { ToleranceResult } from '../../core/analysis/tolerance';
import type { JudgedSolution } from '../../core/analysis/solved';
import type { FieldRow } from '../../core/analysis/pair-fields';
import type { PairTechnique } from '../../core/arrays/technique';
import type { Wanted } from '../../core/localisation/solve';
import type { TradeMap } from '../../core/localisation/trade-map';
import type { FlacCheck } from '../../core/audio/flac/reader';
import type { ChannelCue } from '../../core/audio/measure/cues';
import type { DelayMatrix } from '../../core/audio/measure/curves';
import type { ChannelPair } from '../../core/audio/measure/delay';
import type { TapTest } from '../../core/audio/measure/identity';
import type { PairMatch, Symmetry } from '../../core/audio/measure/pair';
import type { Outcome } from '../../core/units';
import type { LoudnessOverTime } from '../../core/audio/measure/over-dry';
import type { MidSideAudit } from '../../core/audio/measure/mid-side';
import type { StereoFigures } from '../../core/audio/measure/stereo';
import type { MeasureOptions, TakeFigures } from '../../core/audio/measure/take';
import type { Columns, Drawn, Pyramid } from '../../core/audio/measure/pyramid';
import type { ExportAsk, Written } from '../../core/audio/process/exported';
import type { Processing } from '../../core/audio/process/processed';
import type { RenderOptions } from '../../core/audio/render/options';
import type { NamedTurn } from '../../core/audio/render/take-kinds';
import type { PackedFile } from '../contents/names';
import type { Unpacked } from '../contents/zip';
import type { SoundInfo } from '../../core/audio/sound';
import type { Binding } from '../../core/recorded';
import type { MicArray, Plan } from '../../core/session';
import type { ClapsAsk, ClapsTake } from '../../core/claps/take';
import type { Alone, Lead, TakeAgainstPlan } from '../../core/verdict';
import type { Moves } from '../../core/soundcheck';
import type { Differing, Effects, Found, Narrowed, Overview } from '../../core/recall';
import type { EarQuestion } from '../../core/drill/ear/question';
import type { EarKindId } from '../../core/drill/ear/kinds';
import type { AskedImage, HeardImage } from '../../core/drill/own/images';
import type { Listener, NoModel } from '../../core/drill/own/listener';
import type { SetUpCheck } from '../../core/drill/own/checks';
import type { Piece } from '../../core/session';
import type { PickedFile } from './export-sink';
import type { Recorded } from './sound-of';

/** A sound that was made, as a file, and how long it is. */
export interface SoundFile {
  file: Blob;
  frames: number;
}

/** Everything that is computed beside the page: what is asked, and what comes back. */
export interface Tasks {
  tradeMap: {
    ask: { pattern: Pattern; spacingsM: number[]; anglesDeg: number[]; speed: number };
    answer: TradeMap;
  };
  /** what spacing and angle of a pair make of the picture of its players, in rows of one angle */
  pairFields: {
    ask: {
      session: Pick<Plan, 'sources' | 'brief' | 'settings' | 'venue'>;
      array: MicArray;
      pair: PairTechnique;
      mostM: number;
      anglesDeg: number[];
    };
    answer: FieldRow[];
  };
  solve: {
    ask: { session: Plan; arrayId: string; wanted: Wanted };
    answer: JudgedSolution[];
  };
  tolerance: { ask: { session: Plan; arrayId: string }; answer: ToleranceResult | null };
  /** findings of the session, without players and arrays whose fields are not valid */
  findings: {
    ask: { session: Plan; withoutIds: readonly string[] };
    answer: Finding[];
  };
  /** ways out of one finding, each tried on a copy before it is offered */
  ways: {
    ask: { session: Plan; withoutIds: readonly string[]; key: string };
    answer: WaysOut;
  };
  /** what could be done about what somebody hears, each tried on a copy */
  moves: {
    ask: { session: Plan; symptom: string; focus: string | null };
    answer: Moves | null;
  };
  /** a question to the ear with its sounds as files */
  earQuestion: {
    ask: { kind: EarKindId; seed: number; size: number };
    answer: {
      question: Omit<EarQuestion, 'clips' | 'difference'>;
      clips: { letter: string; sound: SoundFile }[];
      /** what one has and the other has not */
      difference: SoundFile | null;
    };
  };
  /** the player of a place where he was said to be */
  earAgain: { ask: { seed: number; shift: number }; answer: SoundFile };
  /** an image that is to be placed, or what a set-up is checked with */
  ownSound: { ask: { image: AskedImage } | { check: SetUpCheck }; answer: SoundFile };
  /** a listener's own localisation model from where images were heard */
  ownFit: {
    ask: { answers: readonly HeardImage[] };
    answer: { listener: Listener } | { none: NoModel };
  };
  /** two plans as their mixes sound, at one loudness */
  plansHeard: {
    ask: { before: Plan; after: Plan };
    answer: { before: SoundFile; after: SoundFile };
  };
  /** what each difference between two plans does, put in one by one */
  effects: {
    ask: { before: Plan; after: Plan };
    answer: { found: Differing[]; effects: Effects };
  };
  /** sessions as they are stored go into the library; its overview once all ids are known */
  libraryTaken: {
    ask: {
      put: readonly { id: string; title: string; raw: unknown }[];
      pieces: readonly Piece[] | null;
      /** all sessions that there are; null while more come */
      ids: readonly string[] | null;
    };
    answer: Overview | null;
  };
  librarySearch: {
    ask: { query: string; narrowed: Narrowed; most: number };
    answer: Found;
  };
  mono: { ask: { session: Plan; arrayId: string | null }; answer: MonoRow[] };
  focus: { ask: { session: Plan; arrayId: string | null }; answer: FocusRow[] };
  mix: { ask: Plan; answer: (MixFigures | null)[] };
  judge: { ask: { session: Plan; arrays: readonly MicArray[] }; answer: Judgement[] };
  recommend: { ask: Plan; answer: RecommendationResult };
  /** a simulated take as a WAV file */
  render: { ask: { session: Plan; options: Partial<RenderOptions> }; answer: RenderedTake };
  /** the hash that a content is kept under */
  hash: { ask: Blob; answer: string };
  /** the session of an archive, with what it names */
  unpack: { ask: Blob; answer: Unpacked };
  /** an archive of files */
  pack: { ask: PackedFile[]; answer: Blob };
  /** what a recording says of itself, and what tells it from others */
  opened: { ask: { file: Blob }; answer: OpenedRecording };
  /** a recording as curves at every zoom; rough ones first, as partial answers */
  overview: {
    ask: {
      file: Recorded;
      columns: number;
      /** the packed curves of before */
      kept: Blob | null;
    };
    /** packed to be kept, where they were made anew */
    answer: { pyramid: Pyramid; packed: Blob | null };
  };
  /** how well two microphones match in the noise of a stretch; why it cannot be told, where it cannot */
  matched: {
    ask: { file: Recorded; pair: ChannelPair } & Asked;
    answer: Outcome<PairMatch>;
  };
  /** how alike a figure-eight is from both sides */
  symmetric: {
    ask: { file: Recorded; channel: number; front: Asked; rear: Asked; side: Asked | null };
    answer: Outcome<Symmetry>;
  };
  /** what the tracks of a mid-side recording say */
  audited: {
    ask: { file: Recorded; tracks: readonly number[] } & Asked;
    answer: MidSideAudit;
  };
  /** a short stretch of a recording as curves, from its samples */
  columns: { ask: { file: Recorded } & Drawn; answer: Columns };
  /** what a recording holds; levels so far as partial answers */
  measured: {
    ask: {
      file: Recorded;
      options: MeasureAsk;
      /** only these of its channels, in this order; all of them where it is left out */
      channels?: readonly number[];
    };
    answer: TakeFigures;
  };
  /** loudness of what two loudspeakers give of a recording, LUFS */
  heard: {
    ask: {
      file: Recorded;
      /** of each channel, as factors */
      gains: readonly { left: number; right: number }[];
      /** what is done to them before */
      processing: Partial<Processing>;
      /** only what lies between; all of it where it is left out */
      stretch?: Asked | null;
    };
    answer: number | null;
  };
  /** how loud a recording is over its time */
  loudness: { ask: { file: Recorded } & Asked; answer: LoudnessOverTime };
  /** passages with silence between them */
  passages: { ask: { file: Recorded; channels: readonly number[] }; answer: Asked[] };
  /** stretches in which one leads, and who it may be */
  leads: { ask: { file: Recorded; plan: Plan; binding: Binding }; answer: Lead[] };
  /** how a rig stands by a take of claps; why it cannot be told, where it cannot */
  claps: {
    ask: { file: Recorded; plan: Plan } & ClapsAsk;
    answer: Outcome<ClapsTake>;
  };
  /** what channels say against one of them, of who sounds alone in a stretch */
  cues: {
    ask: { file: Recorded; stretch: Asked; channels: readonly number[]; against: number };
    answer: ChannelCue[];
  };
  /** a take held against its plan; why it cannot be, where it cannot */
  againstPlan: {
    ask: {
      file: Recorded;
      plan: Plan;
      binding: Binding;
      alone: readonly Alone[];
    };
    answer: Outcome<TakeAgainstPlan>;
  };
  /** whether the samples of a FLAC file are those that were written */
  checked: { ask: { file: Blob }; answer: FlacCheck };
  /** what two channels are of each other in a stretch */
  stereo: {
    ask: { file: Recorded; pair: ChannelPair; points: number } & Asked;
    answer: StereoFigures;
  };
  /** points of the stereo plot of a moment */
  points: {
    ask: { file: Recorded; pair: ChannelPair; count: number } & Asked;
    answer: Float32Array;
  };
  /** how two channels stand against each other in a stretch, with the curve that proves it */
  pair: {
    ask: { file: Recorded; pair: ChannelPair; mostMs: number } & Asked;
    answer: DelayMatrix['pairs'][number];
  };
  /** on which channels taps are heard, against the order in which they were announced */
  taps: { ask: { file: Recorded; announced: readonly number[] } & Asked; answer: TapTest };
  /** a recording with something done to it, written and read back */
  exported: {
    ask: { file: Recorded; wanted: ExportAsk; into: PickedFile | null };
    answer: ExportedFile;
  };
}

/** What was written, and how it fits. */
export interface ExportedFile extends Written {
  /** for a download; null where it lies where the user wanted it */
  blob: Blob | null;
  frames: number;
  /** by which the time stamp was moved in the place of the sound */
  stampMoved: number;
}

/** How a recording is measured, as far as it can be said to a worker. */
export type MeasureAsk = Partial<
  Omit<MeasureOptions, 'progress' | 'breathe' | 'signal' | 'partial'>
>;

/** A stretch that is asked about, s. */
interface Asked {
  fromS: number;
  toS: number;
}

export interface OpenedRecording {
  info: SoundInfo;
  fingerprint: string;
}

/** What the planned microphones would record. */
export interface RenderedTake {
  file: Blob;
  /** by which transforms it was made */
  path: 'fast' | 'plain';
  /** what is left out, and why */
  notes: string[];
  /** who is heard when, of a take in turns */
  turns: NamedTurn[];
}

export type TaskName = keyof Tasks;

/** From the page to the worker. */
export type Request =
  { kind: 'run'; id: number; task: TaskName; ask: unknown } | { kind: 'abort'; id: number };

/** From the worker to the page. */
export type Reply =
  | { kind: 'progress'; id: number; fraction: number }
  | { kind: 'partial'; id: number; value: unknown }
  /** it was given up, and the worker has stopped */
  | { kind: 'gone'; id: number }
  | { kind: 'answer'; id: number; answer: unknown }
  | { kind: 'failed'; id: number; message: string };
