import * as z from 'zod';

/**
 * What goes over the socket between booth, server and stage. The server passes pieces on between a booth
 * and the devices that joined it; what they are pieces of, only the two ends know.
 */

/** Limits of what is sent, characters unless said otherwise. */
export const STAGE_LIMITS = {
  /** of one piece of a message */
  piece: 24_000,
  /** of one frame on the wire, bytes */
  frameBytes: 98_304,
  /** of one message put together */
  message: 6_000_000,
  /** what somebody or a device is called */
  name: 60,
  /** frames a second of one connection, and how many at once */
  framesPerS: 100,
  framesAtOnce: 400,
  /** devices of a booth, booths of a server */
  devices: 8,
  booths: 4,
  /** how long a code holds, s */
  codeS: 600,
  /** how long a booth that has gone may take to come back, and a device, s */
  awayS: 90,
  deviceAwayS: 1800,
  /** wrong codes of one address before it has to wait, and how long, s */
  tries: 5,
  waitS: 60,
  /** wrong codes of all addresses before every code is made anew */
  triesOfAll: 20,
  /** a photograph, bytes */
  photographBytes: 2_000_000,
} as const;

const TOKEN = 'allowed: 32 hexadecimal digits';
const token = z.string({ error: TOKEN }).regex(/^[0-9a-f]{32}$/, { error: TOKEN });
const CODE = 'allowed: six digits';
const code = z.string({ error: CODE }).regex(/^\d{6}$/, { error: CODE });
const short = z.string().max(40);
const count = z.number().int().min(0).max(1e9);

const piece = z.strictObject({
  kind: z.literal('piece'),
  /** which life of the sender: one that was loaded anew begins another */
  life: short,
  n: count,
  /** whether the message goes on in the next piece */
  more: z.boolean(),
  text: z.string().max(STAGE_LIMITS.piece),
});
/** The sender has these from here on. */
const from = z.strictObject({ kind: z.literal('from'), life: short, n: count });
/** The receiver has all up to here. */
const have = z.strictObject({ kind: z.literal('have'), life: short, n: count });

/** What one end sends to the other, through the server. */
export const wireSchema = z.discriminatedUnion('kind', [piece, from, have]);
export type Wire = z.infer<typeof wireSchema>;

/** What a booth or a device says to the server. */
export const toServer = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('open'), token: token.nullable() }),
  z.strictObject({ kind: z.literal('new code') }),
  z.strictObject({ kind: z.literal('close') }),
  z.strictObject({ kind: z.literal('put out'), device: short }),
  z.strictObject({
    kind: z.literal('join'),
    code,
    name: z.string().trim().min(1).max(STAGE_LIMITS.name),
  }),
  z.strictObject({ kind: z.literal('back'), token }),
  z.strictObject({ kind: z.literal('leave') }),
  z.strictObject({ kind: z.literal('pass'), device: short, wire: wireSchema }),
  z.strictObject({ kind: z.literal('ping') }),
]);
export type ToServer = z.infer<typeof toServer>;

const device = z.object({
  id: short,
  name: z.string().max(STAGE_LIMITS.name),
  /** whether its link is up */
  here: z.boolean(),
  /** since when, ISO 8601 */
  since: z.string().max(40),
});
export type StageDevice = z.infer<typeof device>;

/** Why somebody was not let in, or was let go. */
export const REFUSALS = {
  'wrong code': 'That is not the code. Read it once more in the booth: it may have been made anew.',
  wait: 'Too many wrong codes came from this network address: wait a minute, then try again.',
  full: 'As many devices as a booth takes are there already.',
  gone: 'The booth is closed, or it was away for longer than a minute and a half: nothing of it is kept. Ask for a new code.',
  'put out': 'The booth has let this device go.',
  elsewhere:
    'A booth is opened on the machine that runs Rotunda: open it there, at http://127.0.0.1 and its port.',
  'too many booths': 'As many booths as this server takes are open already.',
  taken: 'The booth goes on in another tab of this browser.',
  rate: 'More was sent at once than a device may send.',
  'no message': 'What was sent is no message of the stage.',
} as const;
export type Refusal = keyof typeof REFUSALS;
const refusal = z.enum(Object.keys(REFUSALS) as [Refusal, ...Refusal[]]);

/** What the server says. */
export const fromServer = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('opened'),
    token,
    code,
    /** until when the code holds, s from now */
    forS: z.number().min(0),
    /** where a device in the hall reaches the stage's page; empty: only from this machine */
    addresses: z.array(z.string().max(300)).max(20),
    devices: z.array(device).max(STAGE_LIMITS.devices),
  }),
  z.object({ kind: z.literal('code'), code, forS: z.number().min(0), tried: z.boolean() }),
  z.object({ kind: z.literal('devices'), devices: z.array(device).max(STAGE_LIMITS.devices) }),
  z.object({ kind: z.literal('joined'), token, device: short, booth: z.boolean() }),
  /** whether the booth is there */
  z.object({ kind: z.literal('booth'), here: z.boolean() }),
  z.object({ kind: z.literal('refused'), why: refusal }),
  z.object({ kind: z.literal('passed'), device: short, wire: wireSchema }),
  z.object({ kind: z.literal('pong') }),
]);
export type FromServer = z.infer<typeof fromServer>;

/**
 * A text from the socket as what it should be.
 * @param text as it came
 * @returns null where it is none of it
 */
export function readWire<S extends z.ZodType>(schema: S, text: string): z.infer<S> | null {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    return null;
  }
  const parsed = schema.safeParse(raw);
  return parsed.success ? parsed.data : null;
}

/** Where the socket is, below the address of the server. */
export const STAGE_SOCKET = '/stage/socket';
/** Where one asks whether there is one. */
export const STAGE_STATE = '/stage/state';
