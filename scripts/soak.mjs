// The long versions of the tests that repeat: all made sessions and damaged files, every
// array in every room from every distance, two hundred kills of the browser, a minute of sound.
import { bin, ensureBuild, ensurePackages, ensureSystem, run } from './ensure.mjs';

ensurePackages();
ensureSystem();
ensureBuild();
process.env.ROTUNDA_SOAK = '1';
const fuzz = run(bin('vitest'), [
  'run',
  'fuzz',
  'core/audio/render/closed-loop',
  'core/audio/process/exported',
]);
const kills = run(bin('playwright'), ['test', 'e2e/keeping.e2e.ts', '-g', 'kills of the browser']);
const sound = ['test', '--project=sound', '--no-deps', '-g', 'never runs dry'];
const dry = run(bin('playwright'), sound);
process.exit(fuzz === 0 && kills === 0 && dry === 0 ? 0 : 1);
