// What a fresh machine lacks: npm packages, Debian's Chromium, a current build. Plain Node only,
// because it runs before anything is installed.
import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';

export const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));
export const CHROMIUM = '/usr/bin/chromium';

const say = (text) => process.stderr.write(`${text}\n`);

export function run(command, args, options = {}) {
  const result = spawnSync(command, args, { cwd: ROOT, stdio: 'inherit', ...options });
  if (result.error) throw result.error;
  return result.status ?? 1;
}

export const bin = (name) => join(ROOT, 'node_modules', '.bin', name);

const sha = (text) => createHash('sha256').update(text).digest('hex');

function stampMatches(file, stamp) {
  return existsSync(file) && readFileSync(file, 'utf8') === stamp;
}

/** Installs the locked packages when they are not already there. */
export function ensurePackages() {
  const lock = sha(readFileSync(join(ROOT, 'package-lock.json')));
  const stamp = join(ROOT, 'node_modules', '.rotunda-lock');
  if (stampMatches(stamp, lock)) return;
  say('Installing packages (once) …');
  if (run('npm', ['ci', '--no-fund', '--no-audit'], { stdio: ['ignore', 2, 2] }) !== 0) {
    say('npm ci failed: see above.');
    process.exit(1);
  }
  writeFileSync(stamp, lock);
}

/** Debian packages that the tests need, each with a file that tells whether it is there. */
const SYSTEM = {
  chromium: CHROMIUM,
  'poppler-utils': '/usr/bin/pdftotext',
  sox: '/usr/bin/sox',
  ffmpeg: '/usr/bin/ffmpeg',
};

/** Tools that files and figures are checked against: without them those tests are not run. */
const COMPARED_WITH = new Set(['sox', 'ffmpeg']);

function askFor(names) {
  say(`The tests need ${names.join(' and ')}, and cannot install them here.`);
  say(`Install them as root, then run this again: apt-get install ${names.join(' ')}`);
  process.exit(1);
}

/** Installs what is missing of the Debian packages, or says what to install. */
export function ensureSystem(wanted = Object.keys(SYSTEM)) {
  const missing = wanted.filter((name) => !existsSync(SYSTEM[name]));
  if (missing.length === 0) return;
  say(`Installing ${missing.join(', ')} (once) …`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  // Never waits for a password.
  const before = process.getuid?.() === 0 ? [] : ['sudo', '-n'];
  const apt = (...args) => {
    const [command, ...rest] = [...before, 'apt-get', ...args];
    const { status, error } = spawnSync(command, rest, { env, stdio: ['ignore', 2, 2] });
    return !error && status === 0;
  };
  if (apt('update', '-qq') && apt('install', '-y', '-qq', '--no-install-recommends', ...missing)) {
    return;
  }
  // Files are checked against these where they are there; a run that decides must have them.
  const needed = missing.filter((name) => process.env.CI || !COMPARED_WITH.has(name));
  if (needed.length > 0) askFor(needed);
  say(`Not run: what is checked against ${missing.join(' and ')}, which cannot be installed here.`);
}

const BUILD_INPUTS = [
  'app',
  'core',
  'paper',
  'docs/formulas.md',
  'index.html',
  'vite.config.ts',
  'package-lock.json',
];

function filesUnder(path) {
  if (!statSync(path).isDirectory()) return [path];
  return readdirSync(path)
    .sort()
    .flatMap((name) => filesUnder(join(path, name)));
}

/** Builds the page when its sources changed since the last build. */
export function ensureBuild() {
  const files = BUILD_INPUTS.flatMap((name) => filesUnder(join(ROOT, name)));
  const stampText = sha(
    files.map((f) => `${relative(ROOT, f)}:${sha(readFileSync(f))}`).join('\n'),
  );
  const stamp = join(ROOT, 'dist', '.rotunda-build');
  if (stampMatches(stamp, stampText)) return;
  say('Building …');
  try {
    execFileSync(bin('vite'), ['build', '--logLevel', 'warn'], {
      cwd: ROOT,
      stdio: ['ignore', 2, 2],
    });
  } catch {
    say('The build failed: see above.');
    process.exit(1);
  }
  writeFileSync(stamp, stampText);
}
