import { beforeEach, describe, expect, it } from 'vitest';
import { demoSession } from '../../core/demo';
import { readSession, writeSessionText, readSessionText } from '../../core/session';
import { amend, enter, logIndex, strike } from './journals';
import { edit, sessionStore, undo } from './session-store';
import { openSession } from '../fixtures';

const NOW = '2026-11-30T12:00:00.000Z';
const session = () => {
  const { session: open } = sessionStore.getState();
  if (!open) throw new Error('none is open');
  return open;
};
const note = (text: string, about: string[] = []) =>
  enter('log', { kind: 'note', by: 'Ada', text, about });

beforeEach(() => openSession(demoSession(NOW)));

describe('the log', () => {
  it('grows by what is said, said anew and taken back; undo does not touch it', () => {
    const first = note('Oboe too near');
    const second = note('Door closed');
    edit((draft) => void (draft.title = 'Otherwise'));
    const better = amend('log', first, { text: 'Oboe a little too near' });
    strike('log', second);
    undo();
    expect(session().title).not.toBe('Otherwise');
    expect(
      session()
        .log.map(({ id }) => id)
        .slice(0, 3),
    ).toEqual([first, second, better]);
    const notes = logIndex(session().log).of('note');
    expect(notes.map(({ standing }) => standing?.text ?? null)).toEqual([
      null,
      'Oboe a little too near',
    ]);
    expect(notes[1]?.standing?.by).toBe('Ada');
    expect(
      logIndex(session().log)
        .matterOf(better)
        ?.history.map(({ id }) => id),
    ).toEqual([first, better]);
    expect(logIndex(session().log)).toBe(logIndex(session().log));
  });

  it('has kinds of its own, each with its fields, in the file and out of it', () => {
    enter('log', {
      kind: 'option',
      by: '',
      name: 'Wider',
      from: '',
      version: '',
      changed: ['Main pair 17 → 30 cm'],
      why: 'too narrow',
      expected: { widthPct: 71 },
      heard: '',
      state: 'open',
      reason: '',
    });
    enter('takes', {
      by: '',
      number: 1,
      name: 'Take 1',
      comment: '',
      option: session().log[0]?.id ?? '',
      version: '',
      performance: 'first',
      files: [
        {
          name: 'pair.wav',
          bytes: 1000,
          modified: NOW,
          fingerprint: 'ab'.repeat(32),
          sampleRateHz: 96_000,
          channels: [1, null],
        },
      ],
      simulation: null,
      state: {
        temperatureC: 21,
        lids: [],
        sources: [],
        arrays: [],
        gainsDb: [],
        panels: [],
        felt: [],
        people: '',
      },
    });
    const again = readSessionText(writeSessionText(session()));
    expect(again).toEqual({ ok: true, session: session() });
  });

  it('refuses an entry that no file may hold, and says so', () => {
    expect(note('x'.repeat(5001))).toBe('');
    expect(session().log).toEqual([]);
    expect(amend('log', 'nobody', { by: 'x' })).toBe('');
    expect(strike('log', 'nobody')).toBe('');
  });

  it('keeps kinds that it does not know as they are, and says what is wrong with those it knows', () => {
    const later = { id: 'l1', at: NOW, kind: 'hologram', phase: { deg: [1, 2] } };
    const read = readSession({ ...session(), log: [later] });
    expect(read.ok && read.session.log[0]).toMatchObject(later);
    const old = readSession({ ...session(), log: [{ id: 'l2', text: 7 }] });
    expect(old.ok && old.session.log[0]).toMatchObject({ id: 'l2', kind: '', text: 7 });
    const wrong = readSession({
      ...session(),
      log: [
        { id: 'l3', kind: 'option', state: 'maybe' },
        { id: 'l4', kind: 'measurement', fromS: -1, file: { fingerprint: 'xyz' } },
      ],
      marks: [{ id: 'm', rating: 6 }],
    });
    expect(!wrong.ok && wrong.problems.map(({ path }) => path)).toEqual([
      'log[0].state',
      'log[1].file.fingerprint',
      'log[1].fromS',
      'marks[0].rating',
    ]);
  });
});
