export function pageScript(entry: string): Promise<string>;
