// Speed, as medians in a table: the core in Node, then the interface in Chromium.
import { bin, CHROMIUM, ensureBuild, ensurePackages, ensureSystem, run } from './ensure.mjs';

ensurePackages();
ensureSystem(['chromium']);
ensureBuild();
if (run(bin('tsx'), ['scripts/bench-core.ts']) !== 0) process.exit(1);
const { benchPage } = await import('./bench-page.mjs');
await benchPage(CHROMIUM);
