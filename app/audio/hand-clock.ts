/** What is older is no move that is on its way to the sound, ms. */
const LATEST_MS = 60;
/** So long a reading of both clocks counts, ms: a sound that falls behind is followed. */
const COUNTS_MS = 500;

/**
 * When the hand moved, on the clock of the sound: the page comes to say so some time later, now sooner
 * and now later, and the sound is to follow the hand and not the page. The sound's clock is told in
 * steps, so what it reads at best counts.
 */
export class HandClock {
  private movedMs = -Infinity;
  /** the sound's clock less the wall's, s, and when that was */
  private readings: { ms: number; ahead: number }[] = [];

  /** @param ms of the wall's clock */
  moved(ms: number): void {
    this.movedMs = ms;
  }

  /** The sound has been stopped or started: its clock goes on from another time. */
  restart(): void {
    this.readings = [];
  }

  /** Both clocks now: @param soundS s, @param ms of the wall's. */
  look(soundS: number, ms: number): void {
    this.readings = this.readings.filter((reading) => ms - reading.ms < COUNTS_MS);
    this.readings.push({ ms, ahead: soundS - ms / 1000 });
  }

  /**
   * @param soundS the sound's clock now
   * @param ms the wall's
   * @returns when the hand was where it is now, s on the sound's clock
   */
  read(soundS: number, ms: number): number {
    this.look(soundS, ms);
    const ahead = Math.max(...this.readings.map((reading) => reading.ahead));
    const recent = ms >= this.movedMs && ms - this.movedMs < LATEST_MS;
    return (recent ? this.movedMs : ms) / 1000 + ahead;
  }
}
