import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  CURRENT_VERSION,
  duplicateSession,
  FORMAT,
  migrate,
  nameWith,
  newSession,
  readSession,
  readSessionText,
  writeSessionText,
} from '.';
import { demoSession } from '../demo';
import { jsonSchemaText } from './json-schema';

const NOW = '2026-11-23T12:00:00.000Z';
const file = (name: string) => readFileSync(new URL(name, import.meta.url), 'utf8');
const minimal = { format: FORMAT, version: CURRENT_VERSION };

function problems(content: Record<string, unknown>): string[] {
  const read = readSession({ ...minimal, ...content });
  return read.ok ? [] : read.problems.map(({ path, message }) => `${path}: ${message}`);
}

describe('reading', () => {
  it('fills in every default of a file that only names its format and version', () => {
    const read = readSession(minimal);
    if (!read.ok) throw new Error('must be read');
    expect(read.session.settings).toEqual({
      units: 'metric',
      model: 'consensus',
      own: null,
      perspective: 'audience',
      sampleRateHz: 96000,
      echoFromMs: 35,
      ownLengths: [],
      preferencesOff: [],
    });
    expect(read.session.venue.rt60S).toBeNull();
    expect(read.session.venue.temperatureC).toBe(20);
    expect(read.session.sources).toEqual([]);
  });

  it('gives entries without an id one of their own', () => {
    const read = readSession({ ...minimal, sources: [{}, { id: 's1' }, {}], arrays: [{}] });
    if (!read.ok) throw new Error('must be read');
    expect(new Set(read.session.sources.map(({ id }) => id)).size).toBe(3);
    expect(read.session.sources[0]).toMatchObject({ facingDeg: 180, name: 'Source 1' });
    expect(read.session.arrays[0]?.technique).toMatchObject({ kind: 'pair', spacingM: 0.17 });
  });

  it('keeps fields that it does not know, at every depth', () => {
    const read = readSession({
      ...minimal,
      later: { a: 1 },
      sources: [{ shoeSize: 43 }],
      venue: { balcony: true },
    });
    if (!read.ok) throw new Error('must be read');
    const text = writeSessionText(read.session);
    expect(JSON.parse(text)).toMatchObject({
      later: { a: 1 },
      sources: [{ shoeSize: 43 }],
      venue: { balcony: true },
    });
  });

  it('is a round trip', () => {
    const session = demoSession(NOW);
    const read = readSessionText(writeSessionText(session));
    expect(read).toEqual({ ok: true, session });
  });
});

describe('problems', () => {
  it.each([
    [{ sources: [{}, { x: 300 }] }, 'sources[1].x: 300; allowed: a number from -200 to 200 m'],
    [{ sources: [{ z: 'high' }] }, 'sources[0].z: "high"; allowed: a number from -200 to 200 m'],
    [
      {
        arrays: [{ technique: { kind: 'pair', pattern: 0.5, spacingM: -1, includedAngleDeg: 0 } }],
      },
      'arrays[0].technique.spacingM: -1; allowed: a number from 0 to 50 m',
    ],
    [
      { venue: { temperatureC: 60 } },
      'venue.temperatureC: 60; allowed: a number from -20 to 50 °C',
    ],
    [
      { settings: { model: 'old' } },
      'settings.model: "old"; allowed: consensus, traded, added, two-slope, tangent, own',
    ],
    [{ venue: { rt60S: 0 } }, 'venue.rt60S: 0; allowed: a number from 0.1 to 12 s'],
    [{ sources: {} }, 'sources: {}; allowed: a list of up to 500 entries'],
    [
      { arrays: [{ mix: { capsules: [{ polarity: 0 }] } }] },
      'arrays[0].mix.capsules[0].polarity: 0; allowed: 1 or -1',
    ],
    [
      { sources: [{ id: 'a' }, { id: 'a' }] },
      'sources[1].id: "a" is used twice; allowed: an id of its own for each',
    ],
  ])('%j', (content, expected) => {
    expect(problems(content)).toEqual([expected]);
  });

  it('names an unknown pattern and an unknown technique', () => {
    const pattern = { kind: 'single', pattern: 'square' };
    expect(problems({ arrays: [{ technique: pattern }] })[0]).toMatch(
      /^arrays\[0\]\.technique\.pattern: "square"; allowed: omni, .* or a number from 0 to 1$/,
    );
    expect(problems({ arrays: [{ technique: { kind: 'trio' } }] })[0]).toMatch(
      /^arrays\[0\]\.technique.*allowed: an object whose kind is pair, mid-side, single or custom$/,
    );
  });

  it('limits sources and capsules', () => {
    expect(problems({ sources: Array.from({ length: 501 }, () => ({})) })).toHaveLength(1);
    expect(problems({ arrays: Array.from({ length: 101 }, () => ({})) })).toEqual([
      'arrays: 202 capsules in all; allowed: up to 200',
    ]);
  });

  it('reports a damaged file, another kind of file and a newer one', () => {
    const messages = [
      '{"format": "rotunda-ses',
      '[]',
      '{"format":"x"}',
      '{"format":"rotunda-session"}',
    ]
      .map(readSessionText)
      .map((read) => (read.ok ? '' : (read.problems[0]?.message ?? '')));
    expect(messages[0]).toMatch(/^not JSON, so the file is damaged/);
    expect(messages[1]).toMatch(/^format: not a Rotunda session/);
    expect(messages[2]).toMatch(/^format: not a Rotunda session/);
    expect(messages[3]).toMatch(/^version: missing/);
    const newer = readSession({ ...minimal, version: 3 });
    expect(newer.ok || newer.problems[0]?.message).toMatch(/newer Rotunda; allowed: 1 to 2/);
  });

  it('never throws and never lets a number through that is not finite', () => {
    fc.assert(
      fc.property(fc.jsonValue(), fc.double(), (anything, number) => {
        const read = readSession({ ...minimal, venue: anything, sources: [{ x: number }] });
        if (read.ok) expect(Number.isFinite(read.session.sources[0]?.x)).toBe(true);
        else expect(read.problems.length).toBeGreaterThan(0);
      }),
    );
  });
});

describe('versions', () => {
  it('reads the frozen file of version 1 under its present names', () => {
    const read = readSessionText(file('./fixtures/session-v1.rotunda.json'));
    if (!read.ok) throw new Error(JSON.stringify(read.problems));
    expect(read.session.sources).toHaveLength(9);
    expect(read.session.arrays[0]?.tiltDeg).toBe(-15);
    expect(read.session.version).toBe(2);
    const old = {
      format: FORMAT,
      version: 1,
      settings: { school: 'added', preferencesOff: [{ code: 'hole', reason: 'by ear' }] },
      brief: { intent: { stageFillPct: 70 }, later: 1 },
    };
    const named = readSession(old);
    if (!named.ok) throw new Error('must be read');
    expect(named.session.settings.model).toBe('added');
    expect(named.session.settings.preferencesOff[0]?.code).toBe('gap');
    expect(named.session.brief.intent.imageWidthPct).toBe(70);
    const text = writeSessionText(named.session);
    expect(text).not.toMatch(/school|stageFillPct/);
    expect(JSON.parse(text)).toMatchObject({ version: 2, brief: { later: 1 } });
  });

  it('migrates step by step, and says where there is no way', () => {
    const plan = {
      current: 3,
      steps: {
        1: (raw: Record<string, unknown>) => ({ ...raw, name: raw.title }),
        2: (raw: Record<string, unknown>) => ({ ...raw, seen: [raw.version] }),
      },
    };
    expect(migrate({ ...minimal, version: 1, title: 'T' }, plan)).toEqual({
      ok: true,
      value: { ...minimal, title: 'T', name: 'T', seen: [2], version: 3 },
    });
    expect(migrate({ ...minimal, version: 1 }, { current: 2, steps: {} })).toMatchObject({
      ok: false,
      message: 'version: no way from version 1 to 2',
    });
  });

  it('the published JSON Schema is the current one (npm run schema)', () => {
    expect(file('../../docs/session.schema.json')).toBe(jsonSchemaText());
  });
});

describe('new sessions', () => {
  it('begin with a main pair, and a copy has its own identity', () => {
    const session = newSession('a', 'First', NOW);
    expect(session.arrays).toHaveLength(1);
    const copy = duplicateSession(session, 'b', 'Second', NOW);
    expect(copy).toMatchObject({ id: 'b', title: 'Second' });
    expect(copy.arrays[0]).toEqual(session.arrays[0]);
    expect(copy.arrays[0]).not.toBe(session.arrays[0]);
  });
});

describe('files that would stop the reader', () => {
  const nested = (levels: number) => {
    let value: unknown = 1;
    for (let i = 0; i < levels; i++) value = { a: value };
    return value;
  };
  /** The least of three: a machine in a slow moment must not condemn it. */
  const cpuMs = (work: () => void): number => {
    const once = (): number => {
      const before = process.cpuUsage();
      work();
      const { user, system } = process.cpuUsage(before);
      return (user + system) / 1000;
    };
    return Math.min(once(), once(), once());
  };

  it('are refused for their depth, with the way there and the limit', () => {
    expect(problems({ later: nested(60) })).toEqual([]);
    expect(problems({ later: nested(61) })[0]).toBe(
      ': later.a.a.a …: nested deeper than 60 levels; allowed: up to 60',
    );
    expect(problems({ later: nested(5000) })[0]).toMatch(/nested deeper than 60 levels/);
  });

  it('are refused for their size before anything else is looked at', () => {
    const fields = Object.fromEntries(Array.from({ length: 1_000_000 }, (_, i) => [`k${i}`, i]));
    const lists = { a: Array.from({ length: 600_000 }, () => 0) };
    const took = cpuMs(() => {
      expect(problems({ later: fields })[0]).toBe(
        ': later: 1000000 fields in one object; allowed: up to 5000',
      );
      expect(problems({ later: lists })[0]).toMatch(/more than 500000 values in all/);
      const text = ' '.repeat(64_000_001);
      expect(readSessionText(text)).toMatchObject({ ok: false });
    });
    expect(took).toBeLessThan(2000);
  });

  it('list the first hundred of their problems, however many there are', () => {
    const takes = Array.from({ length: 1000 }, () => ({
      state: { gainsDb: Array.from({ length: 400 }, () => 'x') },
    }));
    let found: string[] = [];
    expect(cpuMs(() => (found = problems({ takes })))).toBeLessThan(2000);
    expect(found).toHaveLength(101);
    expect(found[0]).toBe('takes[0].state.gainsDb[0]: "x"; allowed: a number in dB, or null');
    expect(found[100]).toMatch(/only the first 100 are listed/);
  });
});

describe('ids', () => {
  it.each(['a/b', '..', '.', 'x%2fy', 'a\nb', '\ud800', '__proto__', ' a', 'a?b', 'a#b', 'a\\b'])(
    '%j is refused wherever something refers to it, and given anew to a session',
    (id) => {
      const lists = ['sources', 'arrays', 'sections', 'takes'] as const;
      for (const list of lists) {
        expect(problems({ [list]: [{ id }] })[0]).toMatch(
          /\[0\]\.id: .*allowed: up to 100 characters without line breaks/,
        );
      }
      expect(problems({ candidates: [{ id, array: {} }] })[0]).toMatch(/^candidates\[0\]\.id/);
      expect(problems({ candidates: [{ id: 'c', array: {}, setUp: [{ id }] }] })[0]).toMatch(
        /^candidates\[0\]\.setUp\[0\]\.id/,
      );
      expect(problems({ kit: { stands: [{ id }] } })[0]).toMatch(/^kit\.stands\[0\]\.id/);
      const read = readSession({ ...minimal, id });
      expect(read.ok && read.session.id).toBe('');
    },
  );

  it.each(['p1', 'Flöte 1', '二胡', 'a:b', 'x'.repeat(100)])('%s is taken', (id) => {
    expect(problems({ id, sources: [{ id }] })).toEqual([]);
  });
});

describe('names', () => {
  it('with something behind them still fit a file', () => {
    expect(nameWith('Flute', ' 2')).toBe('Flute 2');
    const long = nameWith('m'.repeat(200), ' (copy)');
    expect(long).toHaveLength(200);
    expect(long).toMatch(/^m+… \(copy\)$/);
    // Never half a sign.
    expect(nameWith('👩'.repeat(100), ' 2')).not.toMatch(/[\ud800-\udbff](?![\udc00-\udfff])/);
  });
});

describe('a file of version 1', () => {
  const read = (content: object) => {
    const result = readSession({ format: FORMAT, ...content });
    if (!result.ok) throw new Error('must be read');
    return result;
  };

  it('says that it names no model, and keeps the one that it names', () => {
    expect(read({ version: 1 })).toMatchObject({
      modelAssumed: true,
      session: { settings: { model: 'consensus' } },
    });
    const named = read({ version: 1, settings: { school: 'traded' } });
    expect(named.modelAssumed).toBeUndefined();
    expect(named.session.settings.model).toBe('traded');
    expect(read({ version: CURRENT_VERSION }).modelAssumed).toBeUndefined();
  });
});
