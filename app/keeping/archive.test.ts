// @vitest-environment jsdom
import 'fake-indexeddb/auto';
import { Blob as NodeBlob } from 'node:buffer';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { describe, expect, it, vi } from 'vitest';
import {
  newSession,
  PIECES,
  readPiece,
  sessionFrom,
  writeSessionText,
  type BlobReference,
  type Piece,
  type Session,
} from '../../core/session';
import { LOG_KINDS } from '../../core/session/schema-journals';
import { importArchive, packArchive } from './archive';
import { hashOfFile, isArchive, pathOfHash } from '../contents/names';
import { blobContent, contentsOf, takeInBlob } from './blobs';
import { hashOfBlob } from '../contents/hashing';
import { packEverything } from './everything';
import { keepPiece, keptPieces, removePiece } from './library-store';
import {
  addSession,
  listSessions,
  loadSession,
  removeForGood,
  replaceSession,
  setArchived,
} from './storage';

// The one of the test's page can neither be stored nor read as a stream.
vi.stubGlobal('Blob', NodeBlob);

const NOW = '2026-11-30T12:00:00.000Z';
const TEXT = 'application/json';
let count = 0;
const withBlobs = (blobs: BlobReference[]): Session => ({
  ...newSession(`a${(count += 1)}`, 'Archive', NOW),
  blobs,
});
const reference = async (content: Blob, name: string): Promise<BlobReference> => {
  const hash = await hashOfBlob(content);
  const { size: bytes, type } = content;
  return { id: `b-${hash.slice(0, 20)}`, hash, type, bytes, name, data: null };
};
const picture = (text: string): Blob => new Blob([text], { type: 'image/jpeg' });
const zip = (session: Session, files: Record<string, Uint8Array | string> = {}): Blob =>
  new Blob([
    zipSync({
      'session.rotunda.json': strToU8(writeSessionText(session)),
      ...Object.fromEntries(
        Object.entries(files).map(([path, of]) => [
          path,
          typeof of === 'string' ? strToU8(of) : of,
        ]),
      ),
    }),
  ]);
function readPieceOrFail(raw: unknown): Piece {
  const read = readPiece(raw);
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  return read.piece;
}
const messageOf = async (file: Blob): Promise<string> => {
  const result = await importArchive(file);
  return result.kind === 'refused' ? (result.problems[0]?.message ?? '') : result.kind;
};

describe('an archive', () => {
  it('brings its session and what that names, and what a kept text of it names', async () => {
    const [seat, unnamed] = [picture('the seat'), picture('nobody names it')];
    const seatHash = await hashOfBlob(seat);
    const version = new Blob([JSON.stringify({ plan: { blobs: [{ hash: seatHash }] } })], {
      type: TEXT,
    });
    const session = withBlobs([await reference(version, 'Version before lunch')]);
    const unnamedHash = await hashOfBlob(unnamed);
    const file = zip(session, {
      [pathOfHash(session.blobs[0]?.hash ?? '')]: await version.text(),
      [pathOfHash(seatHash)]: 'the seat',
      [pathOfHash(unnamedHash)]: 'nobody names it',
      'notes.txt': 'left where it is',
    });
    expect(await importArchive(file)).toEqual({ kind: 'imported', id: session.id });
    expect(await loadSession(session.id)).toMatchObject({ session: { blobs: session.blobs } });
    expect(await (await blobContent(seatHash))?.content.text()).toBe('the seat');
    expect(await blobContent(unnamedHash)).toBeNull();
    // And goes out as it came in.
    const { files, missing } = await contentsOf(session);
    expect(missing).toEqual([]);
    expect(files.map(({ path }) => hashOfFile(path)).sort()).toEqual(
      [session.blobs[0]?.hash, seatHash].sort(),
    );
    const out = await packArchive([
      { path: 'session.rotunda.json', content: writeSessionText(session) },
      ...files,
    ]);
    const plain = unzipSync(new Uint8Array(await out.arrayBuffer()));
    expect(strFromU8(plain[pathOfHash(seatHash)] as Uint8Array)).toBe('the seat');
    expect(strFromU8(plain['session.rotunda.json'] as Uint8Array)).toBe(writeSessionText(session));
    expect(await importArchive(out)).toMatchObject({ kind: 'clash', session });
  });

  it('says what is missing in it and what is damaged, and brings the rest', async () => {
    const [here, wrong, gone] = await Promise.all([
      reference(picture('one that is here'), 'Here'),
      reference(picture('one that is wrong'), 'Wrong'),
      reference(picture('one that is gone'), 'Gone'),
    ]);
    const session = withBlobs([here, wrong, gone]);
    const result = await importArchive(
      zip(session, {
        [pathOfHash(here.hash)]: 'one that is here',
        [pathOfHash(wrong.hash)]: 'what?',
      }),
    );
    expect(result).toEqual({
      kind: 'imported',
      id: session.id,
      said: 'Damaged in the archive, so left out: “Wrong”. Not in the archive: “Gone”.',
    });
    expect(await blobContent(here.hash)).not.toBeNull();
    expect(await blobContent(wrong.hash)).toBeNull();
  });

  it('is refused with two files of one name, two sessions, none, or where it is none', async () => {
    const session = withBlobs([]);
    // Two entries of as many letters, one of them renamed by hand.
    const bytes = zipSync({
      'a.rotunda.json': strToU8(writeSessionText(session)),
      'b.rotunda.json': strToU8(writeSessionText(session)),
    });
    expect(await messageOf(new Blob([bytes]))).toMatch(/^2 session files in the archive; allowed/);
    const twice = Buffer.from(bytes);
    for (let at = twice.indexOf('b.rot'); at >= 0; at = twice.indexOf('b.rot'))
      twice.write('a', at);
    expect(await messageOf(new Blob([twice]))).toMatch(/^two files are called “a.rotunda.json”/);
    expect(await messageOf(new Blob([zipSync({ a: strToU8('a') })]))).toMatch(/^0 session files/);
    for (const broken of ['', 'PK', 'no archive', 'PK\u0003\u0004 and nothing'])
      expect(await messageOf(new Blob([broken]))).toMatch(/^not an archive that can be unpacked/);
    const cut = new Blob([bytes.subarray(0, bytes.length - 30)]);
    expect(await messageOf(cut)).toMatch(/^2 session files/);
    expect(await messageOf(new Blob([bytes.subarray(0, 40)]))).toMatch(
      /^(not an archive|0 session)/,
    );
  });

  it('unpacks nothing that nobody names, and never more than it says', async () => {
    const session = withBlobs([]);
    const zeros = new Uint8Array(60_000_000);
    const file = zip(session, { [pathOfHash('ab'.repeat(32))]: zeros });
    const before = process.memoryUsage().arrayBuffers;
    expect(await importArchive(file)).toMatchObject({ kind: 'imported' });
    expect(process.memoryUsage().arrayBuffers - before).toBeLessThan(20_000_000);
    // A session whose size is understated in the table of the archive.
    const bytes = Buffer.from(await zip(withBlobs([])).arrayBuffer());
    const table = bytes.indexOf(Buffer.from([0x50, 0x4b, 1, 2]));
    bytes.writeUInt32LE(10, table + 24);
    expect(await messageOf(new Blob([bytes]))).toMatch(
      /session\.rotunda\.json in it cannot be unpacked/,
    );
  });

  it('of everything brings all sessions and the library, and writes over nothing', async () => {
    const content = picture('of all');
    const reference = await takeInBlob(content, 'Seat');
    const [first, second, away] = [withBlobs([reference]), withBlobs([]), withBlobs([])];
    for (const session of [first, second, away]) await addSession(session);
    await setArchived(away.id, NOW);
    const piece = { id: 'p1', at: NOW, name: 'Chapel', kind: 'spot', mark: {}, from: {} };
    expect(await keepPiece(readPieceOrFail(piece))).toBeNull();
    expect(await keepPiece({ ...readPieceOrFail(piece), at: 'x'.repeat(41) })).toMatch(/^at: /);
    const packed = await packEverything();
    expect(packed).toMatchObject({ damaged: [], missing: 2 });
    // Two are missing since an archive above. All is here as it is there.
    const again = await importArchive(packed.archive);
    expect(again).toMatchObject({ kind: 'everything' });
    expect(again.kind === 'everything' && again.said).toMatch(
      /^0 sessions came in; \d+ were here already\.$/,
    );
    // One is gone, one is otherwise by now, and the library is empty.
    await removeForGood(first.id);
    await removeForGood(away.id);
    await removePiece('p1');
    await replaceSession({ ...second, title: 'Otherwise' });
    const back = await importArchive(packed.archive);
    expect(back.kind === 'everything' && back.said).toMatch(
      /^2 sessions came in; \d+ were here already; 1 came beside the one that is here; 1 piece of the library\.$/,
    );
    expect(await loadSession(first.id)).toMatchObject({ session: { blobs: [reference] } });
    expect((await blobContent(reference.hash))?.content.type).toBe('image/jpeg');
    expect(await loadSession(second.id)).toMatchObject({ session: { title: 'Otherwise' } });
    const { sessions } = await listSessions();
    expect(sessions.find(({ id }) => id === away.id)?.archivedAt).not.toBeNull();
    expect((await keptPieces()).map(({ name }) => name)).toEqual(['Chapel']);
  });

  it('of every kind of content comes back byte for byte where nothing was left', async () => {
    const photograph = await takeInBlob(picture('where it stood'), 'Stand');
    const plan = await takeInBlob(new Blob(['{"plan":1}'], { type: TEXT }), 'Version');
    const kinds = [...Object.keys(LOG_KINDS), 'of a day to come'];
    const session = sessionFrom({
      ...{ id: 'every-kind', title: 'Every kind', createdAt: NOW, updatedAt: NOW },
      blobs: [photograph, plan],
      log: kinds.map((kind, i) => ({ kind, id: `e${i}`, at: NOW, by: 'Ada', more: { kept: [i] } })),
      takes: [{ id: 't1', at: NOW, number: 1, version: plan.hash }],
      marks: [
        { id: 'm1', at: NOW, name: 'Good', photographs: [photograph.id], x: 1, y: 2, z: 3 },
        { id: 'm2', at: NOW, strikes: 'm1' },
      ],
      acknowledgements: [{ id: 'a1', at: NOW, code: 'c', name: 'Ada' }],
    });
    await addSession(session);
    const shifts = [0.2, 0.4, 0.6, 0.8, 1];
    const spread = shifts.map((shift) => [shift, shift]);
    const points = { levels: shifts, times: shifts, levelSpread: spread, timeSpread: spread };
    for (const kind of [...Object.keys(PIECES), 'of a day to come']) {
      const piece = { id: `piece ${kind}`, at: NOW, name: kind, kind, mark: {}, points, more: [1] };
      expect(await keepPiece(readPieceOrFail(piece)), kind).toBeNull();
    }
    const packed = async () => (await packEverything()).archive;
    const archive = await packed();
    for (const { id } of (await listSessions()).sessions) await removeForGood(id);
    for (const { id } of await keptPieces()) await removePiece(id);
    expect((await listSessions()).sessions).toEqual([]);
    expect(await importArchive(archive)).toMatchObject({ kind: 'everything' });
    const [before, after] = await Promise.all(
      [archive, await packed()].map(async (one) =>
        unzipSync(new Uint8Array(await one.arrayBuffer())),
      ),
    );
    expect(Object.keys(before ?? {})).toContain('sessions/every-kind.rotunda.json');
    expect(Object.keys(after ?? {}).sort()).toEqual(Object.keys(before ?? {}).sort());
    for (const [path, content] of Object.entries(before ?? {})) {
      expect(Buffer.from(after?.[path] ?? []).equals(Buffer.from(content)), path).toBe(true);
    }
  });

  it('that is broken gives what is whole, and says what is not', async () => {
    const made = [withBlobs([]), withBlobs([]), withBlobs([])];
    const content = picture('a picture of the seat');
    made[0]?.blobs.push(await takeInBlob(content, 'Seat'));
    const files: Record<string, Uint8Array> = Object.fromEntries(
      made.map((session) => [
        `sessions/${session.id}.rotunda.json`,
        strToU8(writeSessionText(session)),
      ]),
    );
    files[pathOfHash(made[0]?.blobs[0]?.hash ?? '')] = strToU8('a picture of the seat');
    files['library.json'] = strToU8('{"format":"rotunda-library","version":1,"pieces":[]}');
    const whole = Buffer.from(zipSync(files, { level: 0 }));
    const said = async (bytes: Buffer): Promise<string> => {
      for (const { id } of made) await removeForGood(id);
      const result = await importArchive(new Blob([new Uint8Array(bytes)]));
      return result.kind === 'everything' ? result.said : JSON.stringify(result);
    };
    expect(await said(whole)).toBe('3 sessions came in.');
    // Cut off in the library: the sessions and the picture are whole.
    const cut = whole.subarray(0, whole.indexOf('library.json') - 10);
    expect(await said(cut)).toBe(
      '3 sessions came in; the library is not in it any more; the archive is cut off: what is whole in it came in.',
    );
    expect(await (await blobContent(made[0]?.blobs[0]?.hash ?? ''))?.content.text()).toBe(
      'a picture of the seat',
    );
    // Cut off in the last session: the others came in.
    const last = whole.indexOf(`sessions/${made[2]?.id ?? ''}`) + 200;
    expect(await said(whole.subarray(0, last))).toMatch(/^2 sessions came in; 1 cannot be read;/);
    // A byte in the middle of one is another: it is not taken for what was written.
    const flipped = Buffer.from(whole);
    const at = flipped.indexOf(`sessions/${made[1]?.id ?? ''}`) + 120;
    flipped[at] = (flipped[at] ?? 0) ^ 1;
    expect(await said(flipped)).toBe('2 sessions came in; 1 cannot be read.');
  });

  it('is told by its first bytes, whatever it is called', async () => {
    expect(await isArchive(zip(withBlobs([])))).toBe(true);
    expect(await isArchive(new Blob([zipSync({})]))).toBe(true);
    for (const text of ['', 'P', 'PK', 'PK..', '{"format":"rotunda-session"}']) {
      expect(await isArchive(new Blob([text]))).toBe(false);
    }
  });

  it('keeps what the page made until it is stored, and lets much go then', async () => {
    const large = Array.from({ length: 5 }, (_, i) => new Uint8Array(10_000_000).fill(i + 1));
    const references = [];
    for (const bytes of large) references.push(await takeInBlob(new Blob([bytes])));
    for (const [i, { hash, bytes }] of references.entries()) {
      const content = (await blobContent(hash))?.content;
      expect(content?.size).toBe(bytes);
      expect(new Uint8Array((await content?.slice(0, 1).arrayBuffer()) ?? [])[0]).toBe(i + 1);
    }
  });
});
