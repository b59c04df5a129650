import { STAGE_LIMITS, type Wire } from './wire';

/** A message that is on its way: where its pieces lie, by number. */
interface Outgoing {
  first: number;
  pieces: string[];
}

/** Pieces that are on their way at once: the others wait for what was received. */
const AT_ONCE = 6;

interface ChannelEnds {
  /** puts a piece on the wire; what does not arrive is sent again */
  send: (wire: Wire) => void;
  /** a whole message of the other end, in the order in which they were said */
  heard: (message: unknown) => void;
  /** which life of this end it is: another one after it was loaded anew */
  life: string;
  /** what is left to be received has changed */
  changed?: () => void;
}

/**
 * One end of a talk over a link that breaks: whole messages arrive once each and in order, however often
 * the link was lost between, as long as both ends live. An end that was loaded anew begins another life;
 * what the other one had said and had not been told to have arrived is then said again, so whoever hears
 * it takes a message that it knows by its id for what it is.
 */
export class Channel {
  private readonly ends: ChannelEnds;
  private outgoing: Outgoing[] = [];
  private next = 1;
  /** the last piece that the other end is known to have */
  private there = 0;
  /** the last piece that was put on the wire since the two agreed */
  private sent = 0;
  /** whether the other end has said since the link came up what it has */
  private agreed = false;
  private otherLife: string | null = null;
  private got = 0;
  private parts: string[] = [];
  private characters = 0;

  constructor(ends: ChannelEnds) {
    this.ends = ends;
  }

  /** Messages that the other end is not known to have. */
  get waiting(): number {
    return this.outgoing.length;
  }

  /** How much of what waits has arrived, 0 … 1; 1 where nothing waits. */
  get arrived(): number {
    const [first] = this.outgoing;
    if (!first) return 1;
    return Math.max(0, this.there - first.first + 1) / (this.next - first.first);
  }

  /** Says something: anything that JSON holds. @throws RangeError where it is too long for a message */
  say(message: unknown): void {
    const text = JSON.stringify(message);
    if (text.length > STAGE_LIMITS.message) {
      throw new RangeError(
        `a message of ${text.length} characters; allowed: up to ${STAGE_LIMITS.message}`,
      );
    }
    const pieces: string[] = [];
    for (let at = 0; at === 0 || at < text.length; at += STAGE_LIMITS.piece) {
      pieces.push(text.slice(at, at + STAGE_LIMITS.piece));
    }
    this.outgoing.push({ first: this.next, pieces });
    this.next += pieces.length;
    this.push();
    this.ends.changed?.();
  }

  /** The link is up, or up again: the other end is asked what it has. */
  link(): void {
    this.agreed = false;
    this.ends.send({ kind: 'from', life: this.ends.life, n: this.firstWaiting });
  }

  /** What came from the other end. */
  hear(wire: Wire): void {
    switch (wire.kind) {
      case 'from':
        if (wire.life !== this.otherLife) {
          this.otherLife = wire.life;
          this.got = wire.n - 1;
          this.forget();
        } else if (wire.n > this.got + 1) {
          this.got = wire.n - 1;
          this.forget();
        }
        this.tell();
        return;
      case 'have':
        if (wire.life === this.ends.life) this.received(wire.n);
        return;
      case 'piece':
        if (wire.life === this.otherLife && wire.n === this.got + 1) this.take(wire);
    }
  }

  private get firstWaiting(): number {
    return this.outgoing[0]?.first ?? this.next;
  }

  private tell(): void {
    if (this.otherLife !== null)
      this.ends.send({ kind: 'have', life: this.otherLife, n: this.got });
  }

  private forget(): void {
    this.parts = [];
    this.characters = 0;
  }

  private take({ n, more, text }: Extract<Wire, { kind: 'piece' }>): void {
    this.got = n;
    this.characters += text.length;
    if (this.characters <= STAGE_LIMITS.message) this.parts.push(text);
    if (more) return this.tell();
    const whole = this.characters <= STAGE_LIMITS.message ? this.parts.join('') : null;
    this.forget();
    let message: unknown;
    try {
      message = whole === null ? undefined : JSON.parse(whole);
    } catch {
      message = undefined;
    }
    if (message !== undefined) this.ends.heard(message);
    // Said after it was taken in: what was not is said again to whoever comes back.
    this.tell();
  }

  private received(n: number): void {
    if (n >= this.next) return;
    this.there = Math.max(this.there, n);
    if (!this.agreed) {
      this.agreed = true;
      this.there = n;
      this.sent = n;
    }
    const before = this.outgoing.length;
    this.outgoing = this.outgoing.filter(({ first, pieces }) => first + pieces.length - 1 > n);
    this.push();
    if (before !== this.outgoing.length || this.outgoing.length > 0) this.ends.changed?.();
  }

  /** Puts on the wire what may go. */
  private push(): void {
    if (!this.agreed) return;
    for (const { first, pieces } of this.outgoing) {
      for (const [i, text] of pieces.entries()) {
        const n = first + i;
        if (n <= this.sent) continue;
        if (n > this.there + AT_ONCE) return;
        this.sent = n;
        const more = i + 1 < pieces.length;
        this.ends.send({ kind: 'piece', life: this.ends.life, n, more, text });
      }
    }
  }
}
