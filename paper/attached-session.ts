import type { PDFDocument } from '@cantoo/pdf-lib';

/** A session inside the PDF of its sheet: whoever has the paper has the figures behind it. */

/** How the file inside is called. */
const NAME = 'session.rotunda.json';
/** The largest session that is read from a PDF, bytes. */
const MOST_BYTES = 100_000_000;

const opened = async (pdf: Uint8Array): Promise<PDFDocument> => {
  // Only where a PDF is made or read.
  const { PDFDocument: Pdf } = await import('@cantoo/pdf-lib');
  return Pdf.load(pdf, { updateMetadata: false });
};

/**
 * A PDF with a session in it.
 * @param text of the session file
 */
export async function withSessionInside(pdf: Uint8Array, text: string): Promise<Uint8Array> {
  const document = await opened(pdf);
  await document.attach(new TextEncoder().encode(text), NAME, {
    mimeType: 'application/json',
    description: 'The session that this sheet is of. Import the sheet to have it again.',
  });
  return document.save();
}

/** Whether a file is a PDF: told by its first bytes. */
export const isPdf = (first: Uint8Array): boolean =>
  new TextDecoder('latin1').decode(first.subarray(0, 5)) === '%PDF-';

/**
 * The text of the session inside a PDF, or why there is none.
 * @throws nothing
 */
export async function sessionInside(
  pdf: Uint8Array,
): Promise<{ ok: true; text: string } | { ok: false; message: string }> {
  let files: Awaited<ReturnType<PDFDocument['getAttachments']>>;
  try {
    files = (await opened(pdf)).getAttachments();
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error);
    return { ok: false, message: `this PDF cannot be read (${reason})` };
  }
  const found = files.find(({ name }) => name === NAME);
  if (!found) {
    return {
      ok: false,
      message: 'no session is in this PDF; allowed: a position sheet that was saved as PDF here',
    };
  }
  if (found.data.length > MOST_BYTES) {
    return { ok: false, message: `the session in it is larger than ${MOST_BYTES / 1e6} MB` };
  }
  return { ok: true, text: new TextDecoder().decode(found.data) };
}
