import { bin, ensurePackages, run } from './ensure.mjs';

ensurePackages();
process.exit(run(bin('tsx'), ['cli/main.ts', ...process.argv.slice(2)]));
