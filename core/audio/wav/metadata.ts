import { fixedText, fourCharacters, utf8 } from './bytes';
import type { BroadcastInfo, CuePoint } from './format';

const dataView = (bytes: Uint8Array): DataView =>
  new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);

/** Bytes of a broadcast chunk before its coding history. */
export const BROADCAST_BYTES = 602;

/** @returns null where the chunk is too short to hold its date and time */
export function readBroadcast(bytes: Uint8Array, littleEndian: boolean): BroadcastInfo | null {
  if (bytes.length < 346) return null;
  const view = dataView(bytes);
  const text = (from: number, length: number) => fixedText(bytes.subarray(from, from + length));
  const low = view.getUint32(338, littleEndian);
  const high = view.getUint32(342, littleEndian);
  return {
    description: text(0, 256),
    originator: text(256, 32),
    originatorReference: text(288, 32),
    date: text(320, 10),
    time: text(330, 8),
    timeReference: high * 2 ** 32 + low,
    codingHistory: bytes.length > BROADCAST_BYTES ? fixedText(bytes.subarray(BROADCAST_BYTES)) : '',
  };
}

const unescaped = (text: string): string =>
  text
    .replaceAll('&lt;', '<')
    .replaceAll('&gt;', '>')
    .replaceAll('&quot;', '"')
    .replaceAll('&apos;', "'")
    .replaceAll('&amp;', '&');

/** The content of the first element of a name between two places of a text. */
function element(xml: string, name: string): string | null {
  const from = xml.indexOf(`<${name}>`);
  const to = from < 0 ? -1 : xml.indexOf(`</${name}>`, from);
  return to < 0 ? null : unescaped(xml.slice(from + name.length + 2, to).trim());
}

/**
 * The names of the tracks of an iXML text, by channel from 0; empty where it names none.
 * @param channels of the file, 1 … 64
 */
export function trackNames(xml: string, channels: number): string[] {
  const names = Array.from({ length: channels }, () => '');
  let from = 0;
  for (;;) {
    const begin = xml.indexOf('<TRACK>', from);
    const end = begin < 0 ? -1 : xml.indexOf('</TRACK>', begin);
    if (end < 0) return names;
    const track = xml.slice(begin, end);
    const index = Number(element(track, 'INTERLEAVE_INDEX') ?? element(track, 'CHANNEL_INDEX'));
    if (index >= 1 && index <= channels) names[index - 1] = element(track, 'NAME') ?? '';
    from = end;
  }
}

/** Marked places of a cue chunk, without their names. */
export function readCues(bytes: Uint8Array, littleEndian: boolean): CuePoint[] {
  if (bytes.length < 4) return [];
  const view = dataView(bytes);
  const count = Math.min(view.getUint32(0, littleEndian), Math.floor((bytes.length - 4) / 24));
  return Array.from({ length: count }, (_, i) => {
    const at = 4 + i * 24;
    return {
      id: view.getUint32(at, littleEndian),
      position: view.getUint32(at + 20, littleEndian),
      label: '',
    };
  });
}

/** What a LIST holds: texts of INFO, names of cues. */
export interface ListContent {
  info: Record<string, string>;
  labels: Map<number, string>;
}

/** A LIST chunk; what goes beyond its end is left out. */
export function readList(bytes: Uint8Array, littleEndian: boolean): ListContent {
  const content: ListContent = { info: {}, labels: new Map() };
  const kind = fourCharacters(bytes);
  const view = dataView(bytes);
  for (let at = 4; at + 8 <= bytes.length;) {
    const id = fourCharacters(bytes, at);
    const size = view.getUint32(at + 4, littleEndian);
    const part = bytes.subarray(at + 8, Math.min(bytes.length, at + 8 + size));
    if (kind === 'INFO') content.info[id] = fixedText(part);
    else if (kind === 'adtl' && id === 'labl' && part.length >= 4) {
      content.labels.set(dataView(part).getUint32(0, littleEndian), fixedText(part.subarray(4)));
    }
    at += 8 + size + (size % 2);
  }
  return content;
}

/** The text of an iXML chunk; null where it is none. */
export const readIxml = (bytes: Uint8Array): string | null => {
  const end = bytes.indexOf(0);
  return utf8(end < 0 ? bytes : bytes.subarray(0, end));
};
