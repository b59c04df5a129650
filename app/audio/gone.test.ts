import { beforeEach, describe, expect, it } from 'vitest';
import { demoSession } from '../../core/demo';
import type { Session } from '../../core/session';
import { noticeStore } from '../view/notices';
import { forgetGone } from './gone';
import { listeningStore } from './listening';
import { arrayIdOn, sceneOn } from './sides';

const demo = demoSession('2026-11-30T12:00:00Z');
const [one, two] = demo.sources.map(({ id }) => id) as [string, string];
const [pair] = demo.arrays;
if (!pair) throw new Error('the demo has a pair');
const second = { ...pair, id: 'second', name: 'Second' };
const both: Session = { ...demo, arrays: [pair, second] };
const without = (id: string): Session => ({
  ...both,
  sources: both.sources.filter((source) => source.id !== id),
  arrays: both.arrays.filter((array) => array.id !== id),
});
const said = () =>
  noticeStore
    .getState()
    .notices.map(({ text }) => text)
    .join(' ');

beforeEach(() => {
  const nobody = { soloIds: null, mutedIds: [], soloArrayIds: null, mutedArrayIds: [] };
  listeningStore.setState({ ...nobody, hoveredId: null });
  noticeStore.setState({ notices: [] });
});

describe('who is heard alone', () => {
  it('and is gone leaves the others alone; the last one leaves everybody, said', () => {
    listeningStore.setState({ soloIds: [one, two], mutedIds: [one], hoveredId: one });
    forgetGone(without(one));
    expect(listeningStore.getState()).toMatchObject({
      soloIds: [two],
      mutedIds: [],
      hoveredId: null,
    });
    expect(said()).toBe('');
    forgetGone({ ...without(one), sources: [] });
    expect(listeningStore.getState().soloIds).toBeNull();
    expect(said()).toContain('everybody is heard');
  });

  it('stays as it is while all are there', () => {
    const state = {
      soloIds: [two],
      mutedIds: [one],
      soloArrayIds: ['second'],
      mutedArrayIds: [pair.id],
    };
    listeningStore.setState(state);
    forgetGone(both);
    expect(listeningStore.getState()).toMatchObject(state);
  });

  it('of the arrays as well', () => {
    listeningStore.setState({ soloArrayIds: ['second'], mutedArrayIds: [pair.id, 'second'] });
    forgetGone(without('second'));
    expect(listeningStore.getState()).toMatchObject({
      soloArrayIds: null,
      mutedArrayIds: [pair.id],
    });
    expect(said()).toContain('all of the mix is heard');
  });
});

describe('what a side is made of', () => {
  const shown = { session: both, heard: 'mix' as const, candidate: null, dragging: false };

  it('is all of the mix, those alone, or all but those that are left out', () => {
    expect(arrayIdOn(shown, 'plan')).toBe('mix ');
    listeningStore.setState({ mutedArrayIds: ['second'] });
    expect(arrayIdOn(shown, 'plan')).toBe(`mix ${pair.id}`);
    listeningStore.setState({ soloArrayIds: ['second', 'nobody'] });
    expect(arrayIdOn(shown, 'plan')).toBe('mix second');
    listeningStore.setState({ soloArrayIds: ['nobody'], mutedArrayIds: [] });
    expect(arrayIdOn(shown, 'plan')).toBe('mix ');
  });

  it('may be another plan altogether, with its own players and mix', () => {
    const [first] = both.sources;
    if (!first) throw new Error('the demo has players');
    const other: Session = { ...both, sources: [{ ...first, id: 'alone' }], arrays: [second] };
    const beside = { ...shown, candidate: { session: other, heard: 'mix' as const } };
    const scene = sceneOn(beside, 'candidate', 48_000);
    if (typeof scene === 'string') throw new Error(scene);
    expect(scene.stems.map(({ id }) => id)).toEqual(['alone']);
    expect(arrayIdOn(beside, 'candidate')).toBe('mix ');
  });

  it('says why there is none', () => {
    expect(sceneOn(null, 'plan', 48_000)).toBe('No session is open.');
    expect(sceneOn(shown, 'candidate', 48_000)).toBe('No candidate is chosen.');
    expect(sceneOn({ ...shown, session: { ...both, sources: [] } }, 'plan', 48_000)).toMatch(
      /player/i,
    );
    const beside = { ...shown, candidate: { session: both, heard: second } };
    expect(typeof sceneOn(beside, 'candidate', 48_000)).toBe('object');
    expect(arrayIdOn(beside, 'candidate’s room')).toBe('second');
  });
});
