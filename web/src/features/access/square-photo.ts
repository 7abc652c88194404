/** How large a photo is kept, in pixels each way. */
const SIDE = 256;
const QUALITY = 0.88;

/**
 * The middle of a picture as a small square one. Drawn anew, it says nothing any more of where and with what it was
 * taken.
 * @throws Error with words for the person when the browser cannot show it.
 */
export async function squarePhoto(file: File): Promise<Blob> {
  const picture = await createImageBitmap(file).catch(() => {
    throw new Error(`${file.name} is no picture that this browser can show. Choose a PNG, JPEG or WebP one.`);
  });
  const side = Math.min(picture.width, picture.height);
  const canvas = document.createElement('canvas');
  canvas.width = SIDE;
  canvas.height = SIDE;
  const left = (picture.width - side) / 2;
  const top = (picture.height - side) / 2;
  canvas.getContext('2d')?.drawImage(picture, left, top, side, side, 0, 0, SIDE, SIDE);
  picture.close();
  return new Promise((resolve, reject) => {
    canvas.toBlob(
      (blob) => (blob ? resolve(blob) : reject(new Error('The photo could not be made smaller.'))),
      'image/jpeg',
      QUALITY,
    );
  });
}
