const JPEG_QUALITY = 0.85;
/** A file of this size is more than any floor plan; reading it would only fill the memory. */
const MOST_BYTES = 60_000_000;

function dataUrl(file: File): Promise<string> {
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(typeof reader.result === 'string' ? reader.result : '');
    reader.onerror = () => reject(new Error('the file cannot be read'));
    reader.readAsDataURL(file);
  });
}

function loadPicture(url: string): Promise<HTMLImageElement> {
  return new Promise((resolve, reject) => {
    const picture = new Image();
    picture.onload = () => resolve(picture);
    picture.onerror = () => reject(new Error('the browser cannot read it as a picture'));
    picture.src = url;
  });
}

export type PictureResult =
  { ok: true; picture: Blob; widthPx: number; heightPx: number } | { ok: false; message: string };

const pixels = (canvas: HTMLCanvasElement): Promise<Blob | null> =>
  new Promise((done) => canvas.toBlob(done, 'image/jpeg', JPEG_QUALITY));

/**
 * A picture file as a JPEG of bounded size, or why it cannot be one. Drawings become pixels; nothing of
 * what a camera wrote beside them stays: neither place nor device.
 * @param mostPx longest side, px: larger ones are scaled down
 */
export async function readPicture(file: File, mostPx: number): Promise<PictureResult> {
  const refuse = (why: string): PictureResult => ({
    ok: false,
    message: `${file.name}: ${why}. Allowed: a PNG, JPEG or SVG picture of up to 60 MB.`,
  });
  if (!/^image\/(png|jpeg|svg\+xml)$/.test(file.type)) return refuse('not such a picture');
  if (file.size > MOST_BYTES) return refuse(`${Math.round(file.size / 1e6)} MB`);
  try {
    const source = await loadPicture(await dataUrl(file));
    const [width, height] = [source.naturalWidth || 1000, source.naturalHeight || 1000];
    const shrink = Math.min(1, mostPx / Math.max(width, height));
    const canvas = document.createElement('canvas');
    canvas.width = Math.max(1, Math.round(width * shrink));
    canvas.height = Math.max(1, Math.round(height * shrink));
    const pen = canvas.getContext('2d');
    if (!pen) return refuse('the browser gives no canvas to read it with');
    pen.fillStyle = '#ffffff';
    pen.fillRect(0, 0, canvas.width, canvas.height);
    pen.drawImage(source, 0, 0, canvas.width, canvas.height);
    const picture = await pixels(canvas);
    if (!picture) return refuse('the browser gives no picture of it');
    return { ok: true, picture, widthPx: canvas.width, heightPx: canvas.height };
  } catch (error) {
    return refuse(error instanceof Error ? error.message : String(error));
  }
}
