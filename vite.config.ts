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

export default defineConfig({
  resolve: {
    alias: { html2canvas: NOT_SHIPPED, dompurify: NOT_SHIPPED, canvg: NOT_SHIPPED },
  },
  publicDir: 'app/public',
  plugins: [
    react(),
    tailwindcss(),
    packed(),
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
