/** "9:30", "0930" and "9.30" as hh:mm; null for what is no time of day. */
export function timeOf(text: string): string | null {
  const read = /^(\d{1,2})(?:[:.h ]?(\d{2}))?$/.exec(text.trim());
  const [hours, minutes] = [Number(read?.[1]), Number(read?.[2] ?? 0)];
  if (!read || hours > 23 || minutes > 59) return null;
  return `${`${hours}`.padStart(2, '0')}:${`${minutes}`.padStart(2, '0')}`;
}
