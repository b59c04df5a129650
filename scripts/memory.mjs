import { readdirSync, readFileSync } from 'node:fs';

/** Memory of a process and of all it began that is its own, MiB: shared parts are counted once. */
export function memoryOf(root) {
  const parents = new Map();
  for (const pid of readdirSync('/proc').filter((name) => /^\d+$/.test(name))) {
    try {
      const [, parent] = /\) \S (\d+)/.exec(readFileSync(`/proc/${pid}/stat`, 'latin1')) ?? [];
      parents.set(Number(pid), Number(parent));
    } catch {
      // It has ended.
    }
  }
  const isOurs = (pid) => pid === root || (parents.has(pid) && isOurs(parents.get(pid)));
  const each = [];
  for (const pid of parents.keys()) {
    if (!isOurs(pid)) continue;
    try {
      const text = readFileSync(`/proc/${pid}/smaps_rollup`, 'latin1');
      const what = readFileSync(`/proc/${pid}/cmdline`, 'latin1');
      const of = (kind) => Number(new RegExp(`^Pss_${kind}:\\s+(\\d+)`, 'm').exec(text)?.[1] ?? 0);
      // Its own, and its part of what processes share; not what is a file anyway.
      const pss = of('Anon') + of('Shmem');
      each.push({ mib: pss / 1024, what: /--type=([\w-]+)/.exec(what)?.[1] ?? 'browser' });
    } catch {
      // It has ended.
    }
  }
  return each;
}
