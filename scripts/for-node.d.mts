/** See for-node.mjs. */
export function buildForNode(
  entry: string,
  outDir: string,
  options?: { minify?: boolean; empty?: boolean },
): Promise<void>;
