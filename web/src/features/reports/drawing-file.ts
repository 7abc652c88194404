import { takenOnPaper } from '../../platform/theme/for-paper';
import { light } from '../../platform/theme/palette';

/** What a drawing looks like beyond its shape, as its page says it. */
const PAINT = [
  'fill',
  'fill-opacity',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'font-family',
  'font-size',
  'font-weight',
  'opacity',
];
const SCALE = 2;

interface Svg {
  text: string;
  width: number;
  height: number;
}

/** The drawing on the page as an SVG of its own, which looks as on paper without the page's styles. */
export const drawingAsSvg = (within: Element): Svg | undefined => takenOnPaper(within, () => svgIn(within));

function svgIn(within: Element): Svg | undefined {
  const svg = within.querySelector('svg[role="group"]');
  if (!svg) return undefined;
  const copy = svg.cloneNode(true) as SVGSVGElement;
  const [shown, copied] = [svg, copy].map((each) => [each, ...each.querySelectorAll('*')]);
  for (const [index, element] of shown.entries()) {
    const style = getComputedStyle(element);
    for (const name of PAINT) copied[index].setAttribute(name, style.getPropertyValue(name));
    copied[index].removeAttribute('class');
    copied[index].removeAttribute('style');
    // An address leads nowhere outside the page.
    copied[index].removeAttribute('href');
  }
  const { width, height } = svg.getBoundingClientRect();
  const legend = legendOf(within, width);
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  copy.setAttribute('width', String(width));
  copy.setAttribute('height', String(height + legend.height));
  // What stands beside the drawing on the page stands above it here.
  copy.setAttribute('viewBox', `0 ${-legend.height} ${width} ${height + legend.height}`);
  copy.append(...legend.parts);
  copy.style.background = light.sheet;
  return { text: new XMLSerializer().serializeToString(copy), width, height: height + legend.height };
}

const LINE = 22;
const MARK = 11;

/** The names of the series with their colours, laid out above a drawing. */
function legendOf(within: Element, width: number): { parts: SVGElement[]; height: number } {
  const parts: SVGElement[] = [];
  let [x, line] = [0, 0];
  const places: { x: number; line: number; name: string; colour: string }[] = [];
  for (const entry of within.querySelectorAll<HTMLElement>('.legend li')) {
    const mark = entry.querySelector('.legend-mark');
    const wide = entry.getBoundingClientRect().width + 18;
    if (x + wide > width && x > 0) [x, line] = [0, line + 1];
    places.push({
      x,
      line,
      name: entry.innerText,
      colour: mark ? getComputedStyle(mark).backgroundColor : 'none',
    });
    x += wide;
  }
  const height = places.length === 0 ? 0 : (line + 1) * LINE + 8;
  const make = (name: string, attributes: Record<string, string | number>, text = '') => {
    const element = document.createElementNS('http://www.w3.org/2000/svg', name);
    for (const [key, value] of Object.entries(attributes)) element.setAttribute(key, String(value));
    element.textContent = text;
    parts.push(element);
  };
  const { color, fontFamily } = getComputedStyle(within);
  for (const { x: left, line: at, name, colour } of places) {
    const top = at * LINE - height;
    make('rect', { x: left, y: top, width: MARK, height: MARK, rx: 2, fill: colour });
    make(
      'text',
      { x: left + 17, y: top + MARK - 1, fill: color, 'font-size': 13, 'font-family': fontFamily },
      name,
    );
  }
  return { parts, height };
}

/** The same as a PNG, twice as fine. */
export async function drawingAsPng(within: Element): Promise<Blob | undefined> {
  const svg = drawingAsSvg(within);
  if (!svg) return undefined;
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg.text)}`;
  await image.decode();
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [svg.width * SCALE, svg.height * SCALE];
  const paper = canvas.getContext('2d');
  if (!paper) return undefined;
  paper.fillStyle = light.sheet;
  paper.fillRect(0, 0, canvas.width, canvas.height);
  paper.drawImage(image, 0, 0, canvas.width, canvas.height);
  return new Promise((resolve) => canvas.toBlob((blob) => resolve(blob ?? undefined), 'image/png'));
}

/** The bytes of a blob in Base64. */
export async function inBase64(blob: Blob): Promise<string> {
  const bytes = new Uint8Array(await blob.arrayBuffer());
  let text = '';
  for (const byte of bytes) text += String.fromCharCode(byte);
  return btoa(text);
}
