import { describe, expect, it } from 'vitest';
import { threeMicTree } from '../core/arrays';
import { newArray, newSource, type Session } from '../core/session';
import { demoSession } from '../core/demo';
import { sheetModel } from './sheet-model';

const demo = demoSession('2026-11-23T12:00:00.000Z');

function column(session: Session, head: string, bothUnits = false): string[] {
  const [section] = sheetModel(session, bothUnits).parts;
  const index = section?.positions.head.indexOf(head) ?? -1;
  return section?.positions.rows.map((row) => row[index] ?? 'missing') ?? [];
}

describe('the position sheet in words', () => {
  it('says where each capsule goes, the audience’s left and right', () => {
    expect(column(demo, 'From centre line')).toEqual(['0.09 m left', '0.09 m right']);
    expect(column(demo, 'From stage edge')).toEqual(['0.40 m downstage', '0.40 m downstage']);
    expect(column(demo, 'From tape A')).toEqual(['5.19 m', '5.31 m']);
    expect(column(demo, 'From tape B')).toEqual(['5.31 m', '5.19 m']);
    expect(column(demo, 'Height')).toEqual(['2.70 m', '2.70 m']);
    expect(column(demo, 'Aim')).toEqual(['55.9° left', '55.9° right']);
  });

  it('gives both systems when asked, and feet and inches alone in an imperial session', () => {
    expect(column(demo, 'Height', true)[0]).toBe('2.70\u00a0m (8′\u00a010\u00a01/4″)');
    const imperial: Session = { ...demo, settings: { ...demo.settings, units: 'imperial' } };
    expect(column(imperial, 'Height')[0]).toBe('8′ 10 1/4″');
  });

  it('names each side’s half of spacing and angle', () => {
    const [section] = sheetModel(demo, false).parts;
    expect(section?.bar.rows).toEqual([
      ['L', 'cardioid', '8.5 cm left', '55° left'],
      ['R', 'cardioid', '8.5 cm right', '55° right'],
    ]);
    expect(section?.lines.join(' ')).toContain(
      'Capsule to capsule 17.0 cm, included angle 110°; within ±1.0 cm and ±2°.',
    );
  });

  it('says how far a microphone of a tree is from the centre in every direction', () => {
    const { capsules } = threeMicTree(2, 1.5, 'omni');
    const technique = { kind: 'custom' as const, capsules: capsules.map((one) => ({ ...one })) };
    const session: Session = { ...demo, arrays: [newArray({ id: 't', name: 'Tree', technique })] };
    const from = sheetModel(session, false).parts[0]?.bar.rows.map((row) => row[2]);
    expect(from).toEqual(['100.0 cm left', '150.0 cm ahead', '100.0 cm right']);
  });

  it('says where everybody sits and how instruments stand, a large section in one row', () => {
    const piano = newSource({
      id: 'pno',
      name: 'Piano',
      kind: 'upright piano',
      x: -1,
      y: 2,
      lid: 'none',
      openPanels: ['lower panel'],
      felt: true,
    });
    const grand = newSource({ id: 'gr', name: 'Grand', y: 3, lid: 'full-stick' });
    const choir = Array.from({ length: 9 }, (_, i) =>
      newSource({ id: `c${i}`, name: `Choir ${i + 1}`, group: 'Choir', x: i - 4, y: 5 }),
    );
    const { rows } = sheetModel({ ...demo, sources: [piano, grand, ...choir] }, false).players;
    expect(rows).toEqual([
      [
        'Piano',
        '1.00 m left',
        '2.00 m upstage',
        '1.20 m',
        'straight downstage',
        'lower panel off, felt down',
      ],
      [
        'Grand',
        'centre',
        '3.00 m upstage',
        '1.20 m',
        'straight downstage',
        'lid on the full stick',
      ],
      ['Choir, 9', '4.00 m left to 4.00 m right', '5.00 m upstage', '1.20 m', '—', '—'],
    ]);
  });

  it('names who has to be heard, and nobody where nobody has to', () => {
    expect(sheetModel(demo, false).heard).toBe('');
    const people = [
      { name: 'Nel Farrow', role: 'conductor', mustHear: true },
      { name: 'Otto', role: '', mustHear: true },
      { name: 'Pia', role: 'page turner', mustHear: false },
    ];
    const session: Session = { ...demo, brief: { ...demo.brief, people } };
    expect(sheetModel(session, false).heard).toBe(
      'To be heard before a set-up is kept: Nel Farrow (conductor), Otto.',
    );
  });

  it('explains the patch of mid-side, and a lobe that swaps the picture', () => {
    const technique = {
      kind: 'mid-side',
      midPattern: 'cardioid',
      sideGainDb: 0,
      sidePositive: 'right',
    } as const;
    const session: Session = { ...demo, arrays: [newArray({ id: 'm', name: 'M', technique })] };
    const text = sheetModel(session, false).parts[0]?.lines.join(' ') ?? '';
    expect(text).toContain('positive lobe to the right. This swaps left and right.');
    expect(text).toContain('the second with inverted polarity, panned hard left and right');
    expect(text).toContain('A 0.309 at 126.9°');
  });

  it('copes with no array and no tape points, and always names the cautions', () => {
    const bare: Session = { ...demo, arrays: [], venue: { ...demo.venue, datumPoints: [] } };
    const model = sheetModel(bare, false);
    expect(model.parts).toEqual([]);
    expect(model.datum).toContain('Two tape points at least 1 cm apart are missing');
    expect(model.cautions).toEqual([]);
    expect(model.deference).toMatch(/venue’s rules and local codes, and use a licensed rigger/);
    expect(sheetModel(demo, false).cautions.join(' ')).toContain('Cables across the floor');
    const untaped: Session = { ...demo, venue: { ...demo.venue, datumPoints: [] } };
    expect(column(untaped, 'From tape A')).toEqual(['—', '—']);
  });

  it('straight up is straight upstage, level is level, centre is centre', () => {
    const technique = { kind: 'single', pattern: 'omni' } as const;
    const session: Session = {
      ...demo,
      arrays: [newArray({ id: 's', name: 'S', x: 0, y: 0, technique })],
    };
    expect(column(session, 'From centre line')).toEqual(['centre']);
    expect(column(session, 'From stage edge')).toEqual(['on the edge']);
    expect(column(session, 'Aim')).toEqual(['straight upstage']);
    expect(column(session, 'Tilt')).toEqual(['level']);
    const [single] = session.arrays;
    if (!single) throw new Error('an array is needed');
    const down = { ...session, arrays: [{ ...single, tiltDeg: -90, aimDeg: -90 }] };
    expect(column(down, 'Aim')).toEqual(['—']);
    expect(column(down, 'Tilt')).toEqual(['straight down']);
    expect(JSON.stringify(sheetModel(down, false))).toContain(
      'aimed straight down, its front turned 90° left from straight upstage.',
    );
  });
});
