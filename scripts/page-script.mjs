// Parts of the app built into one script that runs by itself in a browser's page.
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'vite';
import { ROOT } from './ensure.mjs';

/**
 * @param {string} entry what is built, from the root
 * @returns {Promise<string>} the script; it works in the page's own thread
 */
export async function pageScript(entry) {
  const folder = mkdtempSync(join(ROOT, 'node_modules', '.page-script-'));
  try {
    await build({
      configFile: false,
      root: ROOT,
      logLevel: 'error',
      publicDir: false,
      worker: { format: 'es' },
      build: {
        outDir: folder,
        lib: { entry, formats: ['iife'], name: 'b', fileName: () => 'page.js' },
        rollupOptions: { output: { codeSplitting: false } },
      },
    });
    return `delete globalThis.Worker; ${readFileSync(join(folder, 'page.js'), 'utf8')}`;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
