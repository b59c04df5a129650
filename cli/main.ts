import { runCommand } from './commands';
import { machineFiles } from './machine';
import { Usage } from './result';
import type { Machine } from './session-file';

/** Work that is done sooner says nothing of its progress. */
const QUIET_MS = 700;
const STEP = 0.1;

function progressOn(stream: NodeJS.WriteStream): Machine['progress'] {
  const from = performance.now();
  let said = 0;
  return (what, fraction) => {
    if (performance.now() - from < QUIET_MS || fraction < said + STEP) return;
    said = Math.floor(fraction / STEP) * STEP;
    stream.write(`${what}: ${Math.round(said * 100)} %\n`);
  };
}

/** Waits until what is written has left, so that a slow reader loses nothing. */
const written = (content: string | Uint8Array): Promise<void> =>
  new Promise((done, failed) => {
    process.stdout.write(content, (error) => (error ? failed(error) : done()));
  });

const machine: Machine = { ...machineFiles, progress: progressOn(process.stderr) };

// A reader that has seen enough closes the pipe: that is no failure of the command.
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  process.exit(error.code === 'EPIPE' ? 0 : 1);
});

try {
  const { status, out, bytes, errors } = await runCommand(process.argv.slice(2), machine);
  for (const line of errors) process.stderr.write(`${line}\n`);
  if (bytes) await written(bytes);
  if (out !== '') await written(`${out}\n`);
  process.exitCode = status;
} catch (error) {
  if (!(error instanceof Usage)) throw error;
  const { HELP } = await import('./help');
  process.stderr.write(`${error.message}\n\n${HELP}\n`);
  process.exitCode = 2;
}
