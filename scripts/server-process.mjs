// The real server for scripts that drive a browser.
import { spawn } from 'node:child_process';
import { bin, ROOT } from './ensure.mjs';

/** Starts the server, with more options where there are any, and resolves once it has printed its address. */
export function startServer(port, more = []) {
  const server = spawn(bin('tsx'), ['server/main.ts', '--port', `${port}`, ...more], { cwd: ROOT });
  return new Promise((resolve, reject) => {
    server.stdout.on('data', (data) => {
      const address = /Rotunda: (http\S+)/.exec(String(data))?.[1];
      if (address) resolve({ address, stop: () => server.kill() });
    });
    server.on('exit', () => reject(new Error('the server did not start')));
  });
}
