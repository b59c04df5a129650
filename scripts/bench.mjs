// Speed, as medians in a table: the core in Node, then the interface in Chromium.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { CHROMIUM, ensureBuild, ensurePackages, ensureSystem, ROOT, run } from './ensure.mjs';

ensurePackages();
ensureSystem(['chromium']);
ensureBuild();
const { build } = await import('vite');
const folder = mkdtempSync(join(tmpdir(), 'rotunda-bench-'));
try {
  // Built as it ships: a loader that keeps names costs the core half its speed.
  await build({
    configFile: false,
    root: ROOT,
    logLevel: 'error',
    ssr: { noExternal: true },
    build: { ssr: 'scripts/bench-core.ts', outDir: folder, emptyOutDir: true, minify: true },
  });
  if (run(process.execPath, [join(folder, 'bench-core.js')]) !== 0) process.exit(1);
} finally {
  rmSync(folder, { recursive: true, force: true });
}
const { benchPage } = await import('./bench-page.mjs');
await benchPage(CHROMIUM);
