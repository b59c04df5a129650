import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import tailwindcss from '@tailwindcss/vite';
import { fileURLToPath } from 'node:url';
import react from '@vitejs/plugin-react';
import { brotliCompressSync } from 'node:zlib';
import { defineConfig, type Plugin } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';

const NOT_SHIPPED = fileURLToPath(new URL('paper/not-shipped.ts', import.meta.url));

const FIRST =
  /app\/(keeping\/(storage|entries|blobs|database|summaries|tabs|library|leftovers|kept-history|simulations)|document\/(session-store|steps|plan|new-id))\.ts$|core\/(planning\/begin|ensembles\/from-template)\.ts$/;

/** Scripts and styles packed once as small as they get, beside the plain files. */
const packed = (): Plugin => ({
  name: 'packed',
  apply: 'build',
  writeBundle: {
    order: 'post',
    sequential: true,
    handler({ dir }) {
      const assets = join(dir ?? 'dist', 'assets');
      for (const name of readdirSync(assets)) {
        if (!/\.(js|css)$/.test(name)) continue;
        const path = join(assets, name);
        writeFileSync(`${path}.br`, brotliCompressSync(readFileSync(path)));
      }
    },
  },
});

/** The schema is written by a script; the page only reads by it, so what writes it is not shipped. */
const withoutSchemaWriter = (): Plugin => ({
  name: 'without-schema-writer',
  apply: 'build',
  enforce: 'pre',
  load(id) {
    if (!/zod\/v4\/core\/(json-schema-processors|to-json-schema)\.js$/.test(id)) return null;
    const names = [...readFileSync(id, 'utf8').matchAll(/^export (?:const|function) (\w+)/gm)];
    const missing = `const missing = () => { throw new Error('the schema is not written by the page'); };`;
    return [
      missing,
      ...names.map(([, name]) => `export const ${name} = missing;`),
      /to-json/.test(id) ? 'export { missing as process };' : '',
    ].join('\n');
  },
});

export default defineConfig({
  resolve: {
    alias: {
      // Without promises of its own: every browser has them.
      localforage: 'localforage/dist/localforage.nopromises.js',
      html2canvas: NOT_SHIPPED,
      dompurify: NOT_SHIPPED,
      canvg: NOT_SHIPPED,
    },
  },
  publicDir: 'app/public',
  plugins: [
    react(),
    tailwindcss(),
    packed(),
    withoutSchemaWriter(),
    VitePWA({
      registerType: 'prompt',
      injectRegister: false,
      manifest: {
        name: 'Rotunda',
        short_name: 'Rotunda',
        description: 'A workbench for recording acoustic music in stereo.',
        start_url: '/',
        display: 'standalone',
        background_color: '#efebe2',
        theme_color: '#efebe2',
        icons: [
          { src: '/icon-192.png', sizes: '192x192', type: 'image/png' },
          { src: '/icon-512.png', sizes: '512x512', type: 'image/png', purpose: 'any' },
          { src: '/icon.svg', sizes: 'any', type: 'image/svg+xml' },
        ],
      },
      workbox: {
        globPatterns: ['**/*.{html,js,css,svg,png,woff2,ttf,wasm}'],
        maximumFileSizeToCacheInBytes: 4_000_000,
        navigateFallback: '/index.html',
      },
    }),
  ],
  // What workers load is told by its name: it comes after the page is there.
  worker: {
    format: 'es',
    rolldownOptions: { output: { chunkFileNames: 'assets/worker-[name]-[hash].js' } },
  },
  build: {
    assetsInlineLimit: 0,
    target: 'es2022',
    chunkSizeWarningLimit: 900,
    rolldownOptions: {
      output: {
        // What every page begins with comes in one piece, however many stations share it.
        codeSplitting: { groups: [{ name: 'first', test: FIRST }] },
      },
    },
  },
});
