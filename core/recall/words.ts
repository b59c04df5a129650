/** Words about when and where that marks, hits and pieces share. */

const DAY_MS = 86_400_000;
const MONTH_DAYS = 365.25 / 12;

const counted = (count: number, one: string): string => `${count} ${one}${count === 1 ? '' : 's'}`;

/**
 * How long ago something was, as people say it: "today", "3 days ago", "14 months ago";
 * of a day to come "in 3 days".
 * @param at, now ISO 8601
 * @returns an empty text where either cannot be read
 */
export function ageText(at: string, now: string): string {
  // A day without a time is the whole day: it counts from one day to another.
  const dayOf = (text: string): number => Math.floor(Date.parse(text) / DAY_MS);
  const days = dayOf(now) - dayOf(at);
  if (!Number.isFinite(days)) return '';
  if (days < 0) return days === -1 ? 'tomorrow' : `in ${counted(-days, 'day')}`;
  if (days < 1) return 'today';
  if (days === 1) return 'yesterday';
  if (days < 60) return `${counted(days, 'day')} ago`;
  const months = Math.round(days / MONTH_DAYS);
  return months < 36
    ? `${counted(months, 'month')} ago`
    : `${counted(Math.floor(months / 12), 'year')} ago`;
}

/** "4 of 5", "3.5 of 5"; "not rated". @param rating 0 … 5 */
export const ratingText = (rating: number | null): string =>
  rating === null ? 'not rated' : `${Number(rating.toFixed(1))} of 5`;

/** A name as it is held against another: without case, accents and what stands between its words. */
export const plainName = (name: string): string =>
  name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

/** Whether two names are those of one hall; a hall without a name is none. */
export const isSameHall = (one: string, other: string): boolean =>
  plainName(one) !== '' && plainName(one) === plainName(other);

/** The words of a text as they are compared. */
export const searchWords = (text: string): string[] => plainName(text).split(' ').filter(Boolean);
