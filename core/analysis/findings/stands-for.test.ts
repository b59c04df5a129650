import { describe, expect, it } from 'vitest';
import { demoSession } from '../../demo';
import type { MicArray, Session } from '../../session';
import { analyseSession } from '../analyse';
import { applyFix } from './finding';
import { waysOut } from './trials';

const demo = demoSession('2026-11-30T12:00:00Z');
const [pair] = demo.arrays;
if (!pair) throw new Error('the demo has a pair');
const spaced: MicArray = {
  ...pair,
  technique: { kind: 'pair', pattern: 'omni', spacingM: 0.9, includedAngleDeg: 0 },
};
const inMono = (array: MicArray): Session => ({
  ...demo,
  brief: { ...demo.brief, intent: { ...demo.brief.intent, mono: 'must-survive' } },
  arrays: [array],
});
const codes = (session: Session): string[] =>
  analyseSession(session).findings.map(({ code }) => code);
const ofMono = (session: Session): string[] =>
  codes(session).filter((code) => code.startsWith('mono'));

describe('a loss in mono that is accepted', () => {
  it('is not said of that array any more, and of no other less', () => {
    const session = inMono(spaced);
    expect(ofMono(session)).toEqual(['mono-comb']);
    const accepted = { ...spaced, monoLossAccepted: true };
    expect(ofMono(inMono(accepted))).toEqual([]);
    const second: MicArray = { ...spaced, id: 'second', name: 'Second', role: 'main', y: -3 };
    const both = { ...session, arrays: [accepted, second] };
    const [finding] = analyseSession(both).findings.filter(({ code }) => code === 'mono-comb');
    expect(finding?.arrayIds).toEqual(['second']);
    // Everything else is said as before.
    expect(codes(inMono(accepted))).toEqual(codes(session).filter((code) => code !== 'mono-comb'));
  });

  it('is offered where nothing is wanted of mono but not lost, and then stands', () => {
    const wide: MicArray = {
      ...pair,
      technique: { kind: 'pair', pattern: 'figure-eight', spacingM: 0.02, includedAngleDeg: 180 },
    };
    const session = inMono(wide);
    const [loss] = analyseSession(session).findings.filter(({ code }) => code === 'mono-loss');
    if (!loss) throw new Error('two against each other lose in mono');
    const accept = waysOut(session, loss.key).ways.find(({ label }) => label.startsWith('Accept'));
    expect(accept?.becomes).toBe('then it is gone');
    if (accept) expect(codes(applyFix(session, accept))).not.toContain('mono-loss');
  });
});

describe('phantom power that must not be', () => {
  const ribbon = {
    ...demo.kit.microphones[0],
    id: 'ribbon',
    name: 'Ribbon',
    kind: 'ribbon' as const,
    patterns: ['figure-eight' as const],
    phantom: 'must not' as const,
    count: 4,
  };
  const spotted = (count: number, phantom: 'on' | 'as needed'): Session =>
    ({
      ...demo,
      kit: { ...demo.kit, microphones: [...demo.kit.microphones, ribbon] },
      arrays: [
        pair,
        ...Array.from({ length: count }, (_, i) => ({
          ...pair,
          id: `spot${i}`,
          name: `Spot ${i}`,
          role: 'spot',
          x: i - 1,
          technique: { kind: 'single', pattern: 'figure-eight' },
          mix: { ...pair.mix, capsules: [] },
          equipment: { ...pair.equipment, microphoneIds: ['ribbon'], phantom },
        })),
      ],
    }) as Session;

  it('blocks, before all that does not, and of several as of one', () => {
    for (const count of [1, 3]) {
      const { findings } = analyseSession(spotted(count, 'on'));
      const blocking = findings.filter((finding) => finding.blocking);
      expect(blocking.length).toBeGreaterThan(0);
      expect(findings.slice(0, blocking.length)).toEqual(blocking);
      expect(new Set(blocking.flatMap(({ arrayIds }) => arrayIds)).size).toBe(count);
      for (const { key } of blocking) {
        const [way] = waysOut(spotted(count, 'on'), key).ways;
        expect(way?.label).toBe('Phantom as each microphone needs it');
        // The way out is of the array that it is said of, and of no other.
        const named = blocking.find((finding) => finding.key === key)?.arrayIds ?? [];
        const changed = way?.changes.map((change) => ('id' in change ? change.id : '')) ?? [];
        expect(changed.every((id) => named.includes(id))).toBe(true);
      }
    }
    expect(analyseSession(spotted(2, 'as needed')).findings.some((of) => of.blocking)).toBe(false);
  });
});
