// Speed, as medians in a table: the core in Node, then the interface in Chromium.
import { mkdtempSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { CHROMIUM, ensureBuild, ensurePackages, ensureSystem, ROOT, run } from './ensure.mjs';

ensurePackages();
ensureSystem(['chromium']);
ensureBuild();
/** Packages that bring compiled code and look for it beside themselves. */
const COMPILED = ['@echogarden/pffft-wasm', '@wasm-audio-decoders/flac'];
const { build } = await import('vite');
// Beside the packages, so that compiled ones are found there.
const folder = mkdtempSync(join(ROOT, 'node_modules', '.bench-'));
try {
  for (const name of ['bench-core', 'bench-sound', 'bench-render']) {
    // Built as it ships: a loader that keeps names costs the core half its speed.
    await build({
      configFile: false,
      root: ROOT,
      logLevel: 'error',
      ssr: { noExternal: true, external: COMPILED },
      build: { ssr: `scripts/${name}.ts`, outDir: folder, emptyOutDir: false, minify: true },
    });
    if (run(process.execPath, [join(folder, `${name}.js`)]) !== 0) process.exit(1);
  }
} finally {
  rmSync(folder, { recursive: true, force: true });
}
const { benchPage } = await import('./bench-page.mjs');
await benchPage(CHROMIUM);
