import { describe, expect, it } from 'vitest';
import { analyseSession } from '../analysis';
import { planDay, shortages } from '../planning';
import { assignKit } from '../kit';
import { readSession } from '../session';
import { demoSessions } from '.';

const NOW = '2026-11-23T12:00:00.000Z';

describe.each(demoSessions(NOW))('the demo “$title”', (session) => {
  it('is a valid session with every part filled in', () => {
    expect(readSession(session)).toMatchObject({ ok: true });
    const { brief, venue, kit } = session;
    expect(brief.people.length).toBeGreaterThan(0);
    expect(brief.intent.imageWidthPct).not.toBeNull();
    expect(venue.surfaces).toHaveLength(6);
    expect(venue.rt60S).not.toBeNull();
    expect(kit.microphones.length).toBeGreaterThan(0);
    expect(kit.stands.length).toBeGreaterThan(0);
  });

  it('goes together: day, channels, kit, nothing that stands in the way', () => {
    expect(planDay(session.brief.timetable).conflicts).toEqual([]);
    expect(shortages(session).filter(({ short }) => short > 0)).toEqual([]);
    expect(assignKit(session).missing).toBe(0);
    const codes = analyseSession(session).findings.map(({ code }) => code);
    expect(codes).not.toContain('player-wish');
    expect(codes).not.toContain('clash');
    expect(codes).not.toContain('antiphase');
    session.sources.forEach((a, i) => {
      for (const b of session.sources.slice(i + 1)) {
        expect(Math.hypot(a.x - b.x, a.y - b.y), `${a.name}, ${b.name}`).toBeGreaterThan(0.5);
      }
    });
  });
});

describe('the demos', () => {
  it('are made anew for each caller', () => {
    const [a, b] = [demoSessions(NOW), demoSessions(NOW)];
    expect(a).toEqual(b);
    expect(a[1]?.sources[0]).not.toBe(b[1]?.sources[0]);
    expect(new Set(a.map(({ id }) => id)).size).toBe(3);
  });
});
