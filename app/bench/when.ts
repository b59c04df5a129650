/** "2 Dec 2026, 14:05" of this place */
export const whenText = (at: string): string =>
  new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
