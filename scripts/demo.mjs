import { spawn } from 'node:child_process';
import { ensureCommand } from './command.mjs';
import { bin, ensureBuild, ensurePackages, ROOT } from './ensure.mjs';

ensurePackages();
ensureBuild();
await ensureCommand();
const rest = process.argv.slice(2);
const demo = rest.includes('--no-demo') ? [] : ['--demo'];
const server = spawn(
  bin('tsx'),
  ['server/main.ts', ...demo, ...rest.filter((arg) => arg !== '--no-demo')],
  { cwd: ROOT, stdio: 'inherit' },
);
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));
