import { describe, expect, it } from 'vitest';
import type { WavInfo } from './format';
import { takesOf, type TakeFile } from './takes';

interface Given {
  channels?: number;
  frames?: number;
  rate?: number;
  /** s since midnight */
  at?: number;
  date?: string;
  names?: string[];
}

function file(name: string, given: Given = {}): TakeFile {
  const { channels = 1, frames = 48_000, rate = 48_000, at, date = '2026-11-26', names } = given;
  const info: WavInfo = {
    container: 'RIFF',
    format: { kind: 'integer', bits: 24, channels, sampleRateHz: rate, bigEndian: false },
    validBits: 24,
    dataOffset: 44,
    frames,
    broadcast:
      at === undefined
        ? null
        : {
            description: '',
            originator: '',
            originatorReference: '',
            date,
            time: '',
            timeReference: at * rate,
            codingHistory: '',
          },
    ixml: null,
    channelMask: null,
    channelNames: names ?? Array.from({ length: channels }, () => ''),
    cues: [],
    info: {},
    warnings: [],
  };
  return { name, info };
}

const named = (files: TakeFile[]) =>
  takesOf(files).map(({ name, tracks }) => [name, tracks.map((track) => track.name)]);

describe('takes from a heap of files', () => {
  it('joins single channels of one name and one beginning', () => {
    expect(
      named([
        file('Take 2_R.wav', { at: 200 }),
        file('Take 1_L.wav', { at: 100 }),
        file('Take 1_R.wav', { at: 100 }),
        file('Take 2_L.wav', { at: 200 }),
      ]),
    ).toEqual([
      ['Take 1', ['L', 'R']],
      ['Take 2', ['L', 'R']],
    ]);
    expect(named([file('Psalm-01.wav'), file('Psalm-02.wav'), file('Psalm-10.wav')])).toEqual([
      ['Psalm', ['01', '02', '10']],
    ]);
  });

  it('keeps apart what began at another time, or has channels of its own', () => {
    expect(named([file('T_L.wav', { at: 1 }), file('T_R.wav', { at: 9 })])).toHaveLength(2);
    expect(named([file('T_L.wav', { channels: 2 }), file('T_R.wav')])).toHaveLength(2);
    expect(named([file('Oboe.wav'), file('Horn.wav')])).toEqual([
      ['Horn', ['Horn']],
      ['Oboe', ['Oboe']],
    ]);
  });

  it('puts pieces behind one another by their time stamps, in whatever order they come', () => {
    const pieces = [
      file('Long_3.wav', { channels: 2, at: 20, frames: 480_000 }),
      file('Long_1.wav', { channels: 2, at: 0, frames: 480_000 }),
      file('Long_2.wav', { channels: 2, at: 10, frames: 480_000 }),
    ];
    const [take, more] = takesOf(pieces);
    expect(more).toBeUndefined();
    expect(take?.frames).toBe(1_440_000);
    expect(take?.tracks.map(({ files }) => files.map(({ name }) => name))).toEqual([
      ['Long_1.wav', 'Long_2.wav', 'Long_3.wav'],
      ['Long_1.wav', 'Long_2.wav', 'Long_3.wav'],
    ]);
    // A gap of a sample is no continuation.
    expect(
      takesOf([...pieces.slice(1), file('Long_4.wav', { channels: 2, at: 20.5 })]),
    ).toHaveLength(2);
  });

  it('without stamps only where the first is as long as a file may be', () => {
    const full = 2 ** 31 / 6;
    const pieces = [
      file('Mass.wav', { channels: 2, frames: full }),
      file('Mass_2.wav', { channels: 2, frames: 1000 }),
    ];
    expect(takesOf(pieces)).toHaveLength(1);
    expect(
      takesOf(pieces.map(({ name, info }) => ({ name, info: { ...info, frames: 5 } }))),
    ).toHaveLength(2);
  });

  it('says where lengths and rates differ, and takes the names that the file gives', () => {
    const [take] = takesOf([
      file('A_L.wav', { frames: 48_000, names: ['Main L'] }),
      file('A_R.wav', { frames: 24_000, rate: 96_000, names: ['Main R'] }),
    ]);
    expect(take?.tracks.map(({ name }) => name)).toEqual(['Main L', 'Main R']);
    expect(take?.warnings.join('; ')).toMatch(/different sample rates: 48000, 96000 Hz/);
    expect(take?.warnings.join('; ')).toMatch(/differ in length by 0.75 s/);
  });

  it('orders by day and time, those without one last, by name', () => {
    expect(
      named([
        file('b.wav'),
        file('late.wav', { at: 5, date: '2026-11-27' }),
        file('a.wav'),
        file('early.wav', { at: 80_000 }),
      ]).map(([name]) => name),
    ).toEqual(['early', 'late', 'a', 'b']);
    expect(takesOf([])).toEqual([]);
  });

  it('joins what is called by microphones, whatever the take is called, and takes each once', () => {
    const names = ['Main pair L', 'Main pair R', 'Oboe', 'Second oboe'];
    const told = (files: TakeFile[]) =>
      takesOf(files, names).map(({ name, tracks }) => [name, tracks.map((track) => track.name)]);
    expect(
      told([
        file('main pair r.wav'),
        file('Main pair L.wav'),
        file('Oboe.wav', { names: ['Input 3'] }),
        file('Second oboe.wav'),
        file('Talkback.wav'),
      ]),
    ).toEqual([
      ['', ['Main pair L', 'Main pair R', 'Oboe', 'Second oboe']],
      ['Talkback', ['Talkback']],
    ]);
    expect(
      told([
        file('T03 - Oboe.wav'),
        file('T03 - Main pair L.wav'),
        file('T04 - Oboe.wav'),
        file('Oboe_T05.wav'),
        file('Second oboes.wav'),
      ]),
    ).toEqual([
      ['Oboe_T05', ['Oboe']],
      ['Second oboes', ['Second oboes']],
      ['T03', ['Main pair L', 'Oboe']],
      ['T04 - Oboe', ['Oboe']],
    ]);
  });

  it('leaves what is only counted apart where it does not end together', () => {
    expect(named([file('Clap 1.wav'), file('Clap 2.wav', { frames: 96_000 })])).toHaveLength(2);
    expect(named([file('Clap 1.wav'), file('Clap 2.wav')])).toHaveLength(1);
  });
});
