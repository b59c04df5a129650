/** Words for whoever announces a take. */

const SMALL = [
  ...['zero', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten'],
  ...['eleven', 'twelve', 'thirteen', 'fourteen', 'fifteen', 'sixteen', 'seventeen'],
  ...['eighteen', 'nineteen'],
];
const TENS = [
  ...['', '', 'twenty', 'thirty', 'forty', 'fifty', 'sixty', 'seventy', 'eighty', 'ninety'],
];

/**
 * A whole number in words, as it is spoken into a microphone.
 * @param value 0 … 999; another one is written in figures
 */
export function numberWords(value: number): string {
  if (!Number.isInteger(value) || value < 0 || value > 999) return `${value}`;
  if (value < 20) return SMALL[value] ?? '';
  if (value < 100) {
    const rest = value % 10;
    return `${TENS[Math.floor(value / 10)]}${rest === 0 ? '' : `-${SMALL[rest]}`}`;
  }
  const rest = value % 100;
  const hundreds = `${SMALL[Math.floor(value / 100)]} hundred`;
  return rest === 0 ? hundreds : `${hundreds} and ${numberWords(rest)}`;
}

/**
 * The letter of an option by its place in the diary: A … Z, then AA, AB …
 * @param place from 0, 0 … 17,575
 */
export function letterOf(place: number): string {
  const last = String.fromCharCode(65 + (place % 26));
  return place < 26 ? last : `${letterOf(Math.floor(place / 26) - 1)}${last}`;
}

/**
 * "Serenade two, option C, take four."
 * @param piece what is played; digits at its end are spoken; empty where it is not said
 * @param option its letter; empty where none is up
 * @param take its number, 1 … 999
 */
export function slateText(piece: string, option: string, take: number): string {
  const spoken = piece.trim().replace(/\b\d{1,3}\b/g, (digits) => numberWords(Number(digits)));
  const parts = [
    spoken,
    option === '' ? '' : `option ${option}`,
    `take ${numberWords(take)}`,
  ].filter((part) => part !== '');
  const text = parts.join(', ');
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;
}
