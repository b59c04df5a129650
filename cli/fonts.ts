import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { SheetFonts } from '../paper/sheet-pdf';

/** The faces that are put into a PDF. */
export function fonts(): SheetFonts {
  const { resolve } = createRequire(import.meta.url);
  const face = (file: string) =>
    readFileSync(resolve(`@expo-google-fonts/inter/${file}`)).toString('base64');
  return {
    normal: face('400Regular/Inter_400Regular.ttf'),
    bold: face('600SemiBold/Inter_600SemiBold.ttf'),
  };
}
