import { useEffect, useState } from 'react';
import { dayLeft } from '../../core/soundcheck';
import { useSession } from '../document/use-session';
import { useOptions } from './data';

const LOOKED_MS = 20_000;

const minutesNow = (of: Date): number => of.getHours() * 60 + of.getMinutes();

/** How many more options fit before the break, as the clock goes on. */
export function DayLine() {
  const { brief } = useSession();
  const options = useOptions();
  const [now, setNow] = useState(() => new Date());
  useEffect(() => {
    const clock = setInterval(() => setNow(new Date()), LOOKED_MS);
    return () => clearInterval(clock);
  }, []);
  const today = now.toDateString();
  const made = options.flatMap(({ history: [first] }) => {
    const at = new Date(first?.at ?? '');
    return at.toDateString() === today ? [minutesNow(at)] : [];
  });
  const { words } = dayLeft(brief.timetable, minutesNow(now), made);
  return (
    <p role="status" aria-label="The day" className="text-muted text-[12.5px]">
      {words}
    </p>
  );
}
