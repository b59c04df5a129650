// @vitest-environment jsdom
import 'fake-indexeddb/auto';
import { File as NodeFile, Blob as NodeBlob } from 'node:buffer';
import { describe, expect, it, vi } from 'vitest';
import { encodeFrames, makeSignal, wavHeader, type WrittenFormat } from '../../core/audio';
import {
  allowRecording,
  filesIn,
  findRecording,
  referTo,
  relink,
  sweepRecordings,
  type FileHandle,
} from './recordings';

vi.stubGlobal('Blob', NodeBlob);

const RATE = 48_000;
const FORMAT: WrittenFormat = { kind: 'integer', bits: 24, channels: 2, sampleRateHz: RATE };

function recording(name: string, delayMs: number, lastModified = 1_000_000): File {
  const signal = { sampleRateHz: RATE, seconds: 1, levelDb: -20, delayMs };
  const planes = makeSignal('delayed', signal);
  const bytes = [wavHeader(FORMAT, RATE), encodeFrames(planes, RATE, FORMAT)];
  return new NodeFile(bytes, name, {
    lastModified,
  }) as unknown as File;
}

const shown = (file: File) => ({ file, handle: null });

describe('a recording that a session names', () => {
  it('is here once it was shown, by what is in it', async () => {
    const file = recording('pair.wav', 1);
    const { reference, info } = await referTo(file);
    expect(reference).toMatchObject({
      name: 'pair.wav',
      bytes: file.size,
      sampleRateHz: RATE,
      channels: [null, null],
      modified: '1970-01-01T00:16:40.000Z',
    });
    expect(info.frames).toBe(RATE);
    expect(await findRecording(reference)).toEqual({ state: 'here', file });
    await expect(referTo(new NodeFile(['text'], 'notes.txt') as unknown as File)).rejects.toThrow();
  });

  it('is gone where nobody showed it, and found in a folder under any name', async () => {
    const [one, two] = [recording('a.wav', 2), recording('b.wav', 3)];
    const first = (await referTo(one)).reference;
    const second = { ...(await referTo(two)).reference, fingerprint: 'cd'.repeat(32) };
    const lost = { ...first, fingerprint: 'ab'.repeat(32) };
    expect(await findRecording(lost)).toEqual({ state: 'gone' });
    const renamed = recording('take 2 (copy).wav', 2, 5_000_000);
    const small = new NodeFile(['x'], 'a.wav') as unknown as File;
    const told: number[] = [];
    const result = await relink([first, second], [small, two, renamed].map(shown), {
      onProgress: (done) => told.push(done),
    });
    expect([...result.found]).toEqual([first.fingerprint]);
    expect(result.missing).toEqual([second]);
    expect(told).toEqual([0.5]);
    expect(await findRecording(first)).toEqual({ state: 'here', file: renamed });
    const stop = new AbortController();
    stop.abort(new Error('enough'));
    await expect(relink([first], [shown(one)], { signal: stop.signal })).rejects.toThrow('enough');
  });

  it('a file that can be read no longer is not here', async () => {
    const file = recording('moved.wav', 4);
    const { reference } = await referTo(file);
    vi.spyOn(file, 'slice').mockImplementation(() => {
      throw new DOMException('not found', 'NotFoundError');
    });
    expect(await findRecording(reference)).toEqual({ state: 'gone' });
  });
});

describe('where the browser keeps handles', () => {
  // A handle is stored by the browser; here one stands for it by name.
  const open = async () => {
    const { tableNamed } = await import('./database');
    return tableNamed<FileHandle>('recordings');
  };
  async function handled(file: File, permission: { now: PermissionState }) {
    const table = await open();
    const handle: FileHandle = {
      kind: 'file',
      name: file.name,
      getFile: () => Promise.resolve(file),
      queryPermission: () => Promise.resolve(permission.now),
      requestPermission: () => {
        if (permission.now === 'prompt') permission.now = 'granted';
        return Promise.resolve(permission.now);
      },
    };
    const { reference } = await referTo(recording('h.wav', 5));
    await table.set(reference.fingerprint, { kind: 'file', name: 'h.wav' } as FileHandle);
    return { handle, reference, table };
  }

  it('is asked for again by one click, and another file in its place is named so', async () => {
    vi.resetModules();
    const permission = { now: 'prompt' as PermissionState };
    const file = recording('h.wav', 5);
    const { handle, reference } = await handled(file, permission);
    // A page that was opened anew: nothing was shown in it.
    vi.resetModules();
    vi.doMock('./database', () => ({
      tableNamed: () => ({
        get: () => Promise.resolve(handle),
        set: () => Promise.resolve(),
        keys: () => Promise.resolve([]),
      }),
    }));
    const fresh = await import('./recordings');
    expect(await fresh.findRecording(reference)).toEqual({ state: 'not allowed' });
    expect(await fresh.allowRecording(reference)).toEqual({ state: 'here', file });
    expect(await fresh.findRecording(reference)).toEqual({ state: 'here', file });
    permission.now = 'denied';
    expect(await fresh.allowRecording(reference)).toEqual({ state: 'not allowed' });
    const other = { ...reference, bytes: reference.bytes + 1 };
    permission.now = 'granted';
    vi.resetModules();
    const again = await import('./recordings');
    expect(await again.findRecording(other)).toEqual({ state: 'changed' });
    // As large and as old, and not looked into; as large and younger, and looked into.
    expect(await again.findRecording({ ...reference, modified: '' })).toMatchObject({
      state: 'here',
    });
    vi.doUnmock('./database');
  });

  it('without one nothing can be allowed, and handles that nothing names go', async () => {
    const { reference } = await referTo(recording('n.wav', 6));
    expect(await allowRecording(reference)).toEqual({ state: 'gone' });
    const table = await open();
    for (const key of await table.keys()) await table.remove(key);
    for (const key of ['one', 'two'])
      await table.set(key, { kind: 'file', name: key } as FileHandle);
    // eslint-disable-next-line @typescript-eslint/require-await -- as the stored ones are told
    const named = async function* () {
      yield ['two', 'three'];
    };
    // As long as they are few nobody looks.
    expect(await sweepRecordings(named)).toBe(0);
    expect(await sweepRecordings(named, 1)).toBe(1);
    expect(await table.keys()).toEqual(['two']);
  });

  it('a folder gives all its files, those of folders in it as well', async () => {
    const file = (name: string): FileHandle => ({
      kind: 'file',
      name,
      getFile: () => Promise.resolve(recording(name, 7)),
    });
    // eslint-disable-next-line @typescript-eslint/require-await
    async function* values(...list: unknown[]) {
      yield* list as FileHandle[];
    }
    const inner = { kind: 'directory', values: () => values(file('b.wav')) };
    const folder = { kind: 'directory', values: () => values(file('a.wav'), inner, file('c.wav')) };
    const names: string[] = [];
    for await (const { file: found, handle } of filesIn(folder)) {
      names.push(found.name);
      expect(handle?.name).toBe(found.name);
    }
    expect(names).toEqual(['a.wav', 'b.wav', 'c.wav']);
  });
});
