import { beforeEach, describe, expect, it } from 'vitest';
import { presetArray, presetsFor } from '../../core/planning';
import { fromTemplate, TEMPLATES } from '../../core/ensembles';
import { sessionFrom, type Session } from '../../core/session';
import {
  addArray,
  addEnsemble,
  addKitSet,
  addPlayer,
  addReadyArray,
  changeSection,
  changeSource,
} from './edits';
import { noticeStore } from '../view/notices';
import { edit, sessionStore, undo } from './session-store';
import { openSession } from '../fixtures';

const session = (): Session => {
  const open = sessionStore.getState().session;
  if (!open) throw new Error('a session is open');
  return open;
};
const LOW = { widthM: 5, depthM: 9, heightM: 2.4, origin: { x: 2.5, y: 4 } };
const empty = sessionFrom({ id: 'empty', venue: LOW });

beforeEach(() => openSession(empty));

describe('new things', () => {
  it('stand inside the hall, 30 cm clear of what they would have gone through', () => {
    addArray({ name: 'Ambience', role: 'ambience', x: 0, y: -7, z: 3 });
    expect(session().arrays[0]).toMatchObject({ x: 0, y: -3.7, z: 2.1 });
    addPlayer(session(), { x: 4, y: 2 });
    expect(session().sources[0]).toMatchObject({ x: 2.2, y: 2 });
  });

  it('stay where they are asked while nobody knows the walls', () => {
    openSession(sessionFrom({ id: 'open' }));
    addArray({ name: 'High', x: 0, y: -7, z: 9 });
    expect(session().arrays[0]).toMatchObject({ y: -7, z: 9 });
  });

  it('made for one player are named after it, one by one, and gone with one step back', () => {
    addPlayer(session(), { x: 0, y: 2 });
    const [player] = session().sources;
    const [preset] = player ? presetsFor(player) : [];
    if (!player || !preset) throw new Error('both are expected');
    const put = () =>
      addReadyArray((id, name) => presetArray(preset, player, id, name), player.name, 'spot');
    put();
    put();
    const [first, second] = session().arrays;
    expect(first?.name).toBe('Player 1 spot');
    expect(second?.name).not.toBe(first?.name);
    expect(first?.for).toEqual({ kind: 'some', groups: [], sources: [player.id] });
    undo();
    expect(session().arrays).toHaveLength(1);
  });
});

describe('the set for a kit', () => {
  it('says what stands for it already, and keeps that among the candidates when asked', () => {
    addPlayer(session(), { x: 0, y: 2 });
    const [{ id } = { id: '' }] = session().sources;
    edit(changeSource(id, { kind: 'drum kit', name: 'Kit' }));
    const put = () => session().sources.slice(0, 1).forEach(addKitSet);
    put();
    const first = session().arrays;
    expect(noticeStore.getState().notices).toHaveLength(0);
    put();
    const [notice] = noticeStore.getState().notices;
    expect(notice?.text).toBe(
      'Kit overheads, Kit bass drum, Kit snare drum stand for Kit as well, heard beside the new ones.',
    );
    notice?.action?.run();
    expect(session().arrays).toHaveLength(3);
    expect(session().candidates.map(({ array }) => array)).toEqual(first);
    undo();
    expect(session().arrays).toHaveLength(6);
    expect(session().candidates).toHaveLength(0);
  });
});

describe('a section that is renamed', () => {
  it('takes its players and the arrays that are for it along, in one step', () => {
    const template = TEMPLATES.find(({ id }) => id === 'chamber-orchestra');
    if (!template) throw new Error('a template is expected');
    let next = 0;
    openSession(sessionFrom({ id: 'big' }));
    addEnsemble(
      fromTemplate(template, () => `id${(next += 1)}`),
      true,
    );
    const spot = () => session().arrays.find(({ name }) => name === 'Woodwind spot');
    expect(spot()?.for).toMatchObject({ groups: ['Flutes', 'Oboes', 'Clarinets', 'Bassoons'] });
    const oboes = session().sections.find(({ name }) => name === 'Oboes');
    changeSection(oboes?.id ?? '', { name: 'Double reeds' });
    expect(spot()?.for).toMatchObject({
      groups: ['Flutes', 'Double reeds', 'Clarinets', 'Bassoons'],
    });
    const groups = session().sources.map(({ group }) => group);
    expect(groups.filter((group) => group === 'Double reeds')).toHaveLength(2);
    expect(groups).not.toContain('Oboes');
    undo();
    expect(spot()?.for).toMatchObject({ groups: ['Flutes', 'Oboes', 'Clarinets', 'Bassoons'] });
  });
});
