import { download, fileName } from '../keeping/files';

const PAINTED = ['fill', 'stroke', 'stroke-width', 'stroke-dasharray', 'stroke-opacity'] as const;
const LETTERED = ['font-size', 'font-weight', 'font-family', 'text-anchor'] as const;

/** A drawing on its own: colours and letters of the page written out, ground filled. */
function standaloneSvg(drawing: SVGSVGElement): string {
  const copy = drawing.cloneNode(true) as SVGSVGElement;
  const originals = [drawing, ...drawing.querySelectorAll<SVGElement>('*')];
  const copies = [copy, ...copy.querySelectorAll<SVGElement>('*')];
  originals.forEach((node, index) => {
    const style = getComputedStyle(node);
    const target = copies[index];
    if (!target) return;
    for (const name of [...PAINTED, ...LETTERED]) {
      target.setAttribute(name, style.getPropertyValue(name));
    }
    target.removeAttribute('class');
    target.removeAttribute('style');
  });
  const { width, height } = drawing.getBoundingClientRect();
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  copy.setAttribute('width', `${width}`);
  copy.setAttribute('height', `${height}`);
  const ground = document.createElementNS('http://www.w3.org/2000/svg', 'rect');
  ground.setAttribute('width', '100%');
  ground.setAttribute('height', '100%');
  ground.setAttribute('fill', getComputedStyle(document.body).backgroundColor);
  copy.insertBefore(ground, copy.firstChild);
  return new XMLSerializer().serializeToString(copy);
}

export function saveSvg(name: string, drawing: SVGSVGElement): void {
  const text = standaloneSvg(drawing);
  download(fileName(name, 'svg'), new Blob([text], { type: 'image/svg+xml' }));
}

const PNG_SCALE = 2;

/** The drawing as pixels, two for one, as it stands on the page. */
export async function savePng(name: string, drawing: SVGSVGElement): Promise<void> {
  const { width, height } = drawing.getBoundingClientRect();
  const picture = new Image();
  picture.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(standaloneSvg(drawing))}`;
  await picture.decode();
  const canvas = document.createElement('canvas');
  canvas.width = width * PNG_SCALE;
  canvas.height = height * PNG_SCALE;
  canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height);
  const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'));
  if (blob) download(fileName(name, 'png'), blob);
}
