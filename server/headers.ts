import type { IncomingMessage } from 'node:http';
import { nameOf } from './hosts';

/** What the app may use of a device: nothing is asked for that no page needs. */
const USED = ['accelerometer', 'camera', 'fullscreen', 'gyroscope', 'screen-wake-lock'];
const REFUSED = [
  'autoplay',
  'display-capture',
  'encrypted-media',
  'geolocation',
  'hid',
  'magnetometer',
  'microphone',
  'midi',
  'payment',
  'picture-in-picture',
  'publickey-credentials-get',
  'serial',
  'usb',
  'xr-spatial-tracking',
];

export const PERMISSIONS = [
  ...USED.map((name) => `${name}=(self)`),
  ...REFUSED.map((name) => `${name}=()`),
].join(', ');

export const POLICY: Readonly<Record<string, string[]>> = {
  defaultSrc: ["'none'"],
  // Compiled code of our own files: transforms of sound, and reading FLAC.
  scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
  styleSrc: ["'self'"],
  fontSrc: ["'self'"],
  connectSrc: ["'self'"],
  workerSrc: ["'self'"],
  manifestSrc: ["'self'"],
  imgSrc: ["'self'", 'data:', 'blob:'],
  baseUri: ["'none'"],
  formAction: ["'none'"],
  frameAncestors: ["'none'"],
};

type Directive = string | ((request: IncomingMessage) => string);

/**
 * The same where there is a socket: it is named as the page's own address, as some browsers do not take
 * it for the page's own otherwise.
 */
export const withSocket = (
  policy: Readonly<Record<string, string[]>>,
): Record<string, Directive[]> => ({
  ...policy,
  connectSrc: [
    ...(policy.connectSrc ?? []),
    ({ headers }) => (nameOf(headers.host) === '' ? "'self'" : `ws://${headers.host}`),
  ],
});

/** For answers that never reach a route: nothing may be run or framed from them. */
export const REFUSAL_HEADERS: Readonly<Record<string, string>> = {
  'content-security-policy': "default-src 'none';frame-ancestors 'none'",
  'permissions-policy': PERMISSIONS,
  'referrer-policy': 'no-referrer',
  'x-content-type-options': 'nosniff',
  'content-type': 'text/plain; charset=utf-8',
};

/** A whole answer for a connection whose request could not be read at all. */
export function rawRefusal(status: number, reason: string): string {
  const lines = Object.entries(REFUSAL_HEADERS).map(([name, value]) => `${name}: ${value}`);
  return [
    `HTTP/1.1 ${status} ${reason}`,
    ...lines,
    `content-length: ${reason.length}`,
    'connection: close',
    '',
    reason,
  ].join('\r\n');
}
