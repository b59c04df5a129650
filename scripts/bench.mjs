// Speed, as medians in a table: the core in Node, then the interface in Chromium.
import { mkdtempSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { benchCommand } from './bench-command.mjs';
import { buildForNode } from './for-node.mjs';
import { CHROMIUM, ensureBuild, ensurePackages, ensureSystem, ROOT, run } from './ensure.mjs';

ensurePackages();
ensureSystem(['chromium']);
ensureBuild();
const folder = mkdtempSync(join(ROOT, 'node_modules', '.bench-'));
try {
  for (const name of ['bench-core', 'bench-sound', 'bench-render']) {
    await buildForNode(`scripts/${name}.ts`, folder);
    if (run(process.execPath, [join(folder, `${name}.js`)]) !== 0) process.exit(1);
  }
  const session = join(folder, 'session.json');
  if (run(process.execPath, [join(folder, 'bench-render.js'), session]) !== 0) process.exit(1);
  await benchCommand(folder, session);
} finally {
  rmSync(folder, { recursive: true, force: true });
}
const { benchKeeping } = await import('./bench-keeping.mjs');
const { benchArchive } = await import('./bench-archive.mjs');
const { benchRecall } = await import('./bench-recall.mjs');
const { benchStage } = await import('./bench-stage.mjs');
const { benchPage } = await import('./bench-page.mjs');
const { benchRecordings } = await import('./bench-recordings.mjs');
await benchPage(CHROMIUM);
await benchRecordings(CHROMIUM);
await benchArchive(CHROMIUM);
await benchKeeping(CHROMIUM);
await benchRecall(CHROMIUM);
await benchStage(CHROMIUM);
