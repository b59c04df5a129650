import { beforeEach, describe, expect, it } from 'vitest';
import { demoSession } from '../../core/demo';
import { moved, stepOf, type Doc, type Move } from '../document/steps';
import { MoveStream, type Transport } from './move-stream';
import type { TabMessage } from './tabs';
import type { Role } from './writing';

/** A line between places on which messages can be lost or held up. */
class Line {
  readonly ends: ((message: TabMessage) => void)[] = [];
  readonly told: TabMessage[] = [];
  loses = (_message: TabMessage): boolean => false;
  end(): Transport {
    const heard: { by: (message: TabMessage) => void } = { by: () => undefined };
    const hear = (message: TabMessage): void => heard.by(message);
    this.ends.push(hear);
    return {
      tell: (message) => {
        this.told.push(message);
        // As over a line: a copy arrives, nobody shares an object.
        const copy = structuredClone(message);
        if (!this.loses(message)) for (const other of this.ends) if (other !== hear) other(copy);
      },
      hear: (listener) => void (heard.by = listener),
    };
  }
}

class Place {
  doc: Doc;
  role: Role;
  saved: Move[] = [];
  kept = 0;
  said: string[] = [];
  readonly stream: MoveStream;

  constructor(line: Line, role: Role, doc: Doc) {
    [this.role, this.doc] = [role, doc];
    const transport = line.end();
    this.stream = new MoveStream(transport, {
      role: () => this.role,
      document: () => this.doc,
      revision: () => 4,
      receive: (move) => {
        if (move.kind === 'entry' && move.entry.id === 'bad') throw new RangeError('no file');
        this.doc = moved(this.doc, move);
      },
      shown: (shown) => void (this.doc = shown),
      saves: (move) => void this.saved.push(move),
      keepEntry: () => void (this.kept += 1),
      handOver: (id) => void this.said.push(`hand over ${id}`),
      refused: () => void this.said.push('refused'),
    });
    transport.hear((message) => this.stream.heard(message));
  }

  does(move: Move): void {
    this.doc = moved(this.doc, move);
    this.stream.did(move);
  }

  moves(x: number): void {
    const made = stepOf(this.doc.session, (draft) => {
      const [first] = draft.sources;
      if (first) first.x = x;
    });
    if (made) this.does({ kind: 'step', step: made.step });
  }

  enters(id: string): void {
    const entry = { id, at: '', strikes: '', amends: '', code: 'lid', name: 'A' };
    this.does({ kind: 'entry', journal: 'acknowledgements', entry });
  }

  get x(): number | undefined {
    return this.doc.session.sources[0]?.x;
  }
  get read(): string[] {
    return this.doc.session.acknowledgements.map(({ id }) => id);
  }
}

describe('the moves of a session between two places', () => {
  let line: Line;
  let writer: Place;
  let follower: Place;

  beforeEach(() => {
    line = new Line();
    const doc: Doc = { session: demoSession('2026-11-30T12:00:00Z'), past: [], future: [] };
    writer = new Place(line, 'writing', doc);
    follower = new Place(line, 'following', structuredClone(doc));
    follower.stream.obey('following');
  });

  it('arrive in their order, with undo and redo, and are saved by the one that writes alone', () => {
    for (const x of [1, 1.5, 2]) writer.moves(x);
    writer.does({ kind: 'undo' });
    expect([writer.x, follower.x]).toEqual([1.5, 1.5]);
    writer.does({ kind: 'redo' });
    expect(follower.doc).toEqual(writer.doc);
    expect(writer.saved).toHaveLength(5);
    expect(follower.saved).toEqual([]);
    // What the one that follows does to the plan goes nowhere.
    follower.stream.did({ kind: 'undo' });
    expect(writer.x).toBe(2);
  });

  it('of which one is lost: the whole is asked for, once', () => {
    writer.moves(1);
    line.loses = ({ kind }) => kind === 'did';
    writer.moves(2);
    line.loses = () => false;
    expect(follower.x).toBe(1);
    const before = line.told.filter(({ kind }) => kind === 'asks').length;
    writer.moves(3);
    expect(follower.doc).toEqual(writer.doc);
    writer.moves(4);
    expect(follower.x).toBe(4);
    expect(line.told.filter(({ kind }) => kind === 'asks')).toHaveLength(before + 1);
  });

  it('a thousand entries come from the one that follows while the other works: none is lost', () => {
    for (let i = 0; i < 1000; i++) {
      follower.enters(`f${i}`);
      if (i % 10 === 0) writer.moves(i / 1000);
      if (i % 7 === 0) writer.enters(`w${i}`);
    }
    expect(writer.x).toBe(0.99);
    expect(follower.x).toBe(0.99);
    expect(writer.read).toHaveLength(1000 + 143);
    expect([...follower.read].sort()).toEqual([...writer.read].sort());
    expect(follower.kept).toBe(1000);
    // Those that came from there are the writing place's to store as well.
    expect(writer.saved.filter(({ kind }) => kind === 'entry')).toHaveLength(1143);
  });

  it('an entry that no file may hold is taken from nobody', () => {
    follower.enters('bad');
    expect(writer.read).toEqual([]);
    expect(writer.saved).toEqual([]);
  });

  it('the writing place is asked to hand over, or says that it goes on', () => {
    const { id } = writer.doc.session;
    follower.stream.heard({ kind: 'wants to write', id });
    expect(follower.said).toEqual([]);
    writer.stream.heard({ kind: 'wants to write', id });
    expect(writer.said).toEqual([`hand over ${id}`]);
    follower.stream.heard({ kind: 'keeps writing', id });
    writer.stream.heard({ kind: 'keeps writing', id });
    expect([follower.said, writer.said]).toEqual([['refused'], [`hand over ${id}`]]);
    // And the other way round after it.
    [writer.role, follower.role] = ['following', 'writing'];
    follower.stream.obey('writing');
    writer.stream.obey('following');
    follower.moves(7);
    expect(writer.x).toBe(7);
  });
});
