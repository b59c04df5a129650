import { ROOT } from './ensure.mjs';

/** Packages that bring compiled code and look for it beside themselves. */
const COMPILED = ['@echogarden/pffft-wasm', '@wasm-audio-decoders/flac'];

/**
 * Sources as they ship, for Node: a loader that keeps names costs the core half its speed. The folder is
 * beside the packages, so that compiled ones are found there.
 */
export async function buildForNode(entry, outDir, { minify = true, empty = false } = {}) {
  const { build } = await import('vite');
  await build({
    configFile: false,
    root: ROOT,
    logLevel: 'error',
    publicDir: false,
    ssr: { noExternal: true, external: COMPILED },
    build: { ssr: entry, outDir, emptyOutDir: empty, minify },
  });
}
