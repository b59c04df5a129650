/** What every engine has that the core runs on, and the language's own library does not name. */
declare function structuredClone<T>(value: T): T;

declare class TextDecoder {
  constructor(label?: string, options?: { fatal?: boolean });
  decode(bytes?: Uint8Array): string;
}

declare class TextEncoder {
  encode(text: string): Uint8Array;
}

declare module '@echogarden/pffft-wasm/simd' {
  const load: () => Promise<unknown>;
  export default load;
}
